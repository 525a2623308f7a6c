<script setup lang="ts">
import { computed } from 'vue'

/** A container seen from the side, with its water and what stays free above it. */
const props = withDefaults(defineProps<{ filled: number; size?: number }>(), { size: 44 })
const top = computed(() => 4 + 36 * (1 - Math.min(1, Math.max(0, props.filled))))
</script>

<template>
  <svg :width="size" :height="size" viewBox="0 0 44 44" aria-hidden="true">
    <path :d="`M6 ${top} H38 L36.5 40 H7.5 Z`" class="water" />
    <line x1="7" x2="37" y1="5.8" y2="5.8" class="free" />
    <path d="M5 4 L7.5 40 H36.5 L39 4" class="wall" />
  </svg>
</template>

<style scoped>
.water {
  fill: var(--deep);
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.free {
  stroke: var(--soft);
  stroke-dasharray: 2 2;
}
</style>
