<script setup lang="ts">
import { computed } from 'vue'

/** A graduated container: what is in it, and a line where it should stand by what was set. */
const props = defineProps<{ filled: number; expected: number; capacity: string }>()
const [TOP, FOOT] = [10, 130]
const y = (share: number) => FOOT - Math.min(1, Math.max(0, share)) * (FOOT - TOP)
const off = computed(() => Math.abs(props.filled - props.expected) > 0.015)
</script>

<template>
  <svg width="84" height="142" viewBox="0 0 84 142" aria-hidden="true">
    <rect class="water" x="8" :y="y(filled)" width="50" :height="FOOT - y(filled)" />
    <path class="wall" d="M8 4 V130 H58 V4" />
    <line
      v-for="mark in 9"
      :key="mark"
      class="grade"
      x1="8"
      :x2="mark === 5 ? 26 : 18"
      :y1="y(mark / 10)"
      :y2="y(mark / 10)"
    />
    <g v-if="off">
      <line class="expected" x1="4" x2="64" :y1="y(expected)" :y2="y(expected)" />
      <text x="66" :y="y(expected) + 4">set</text>
    </g>
  </svg>
</template>

<style scoped>
.water {
  fill: var(--deep);
}
.wall {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.grade {
  stroke: var(--ink);
  stroke-width: 1;
}
.expected {
  stroke: var(--magenta);
  stroke-width: 2;
}
text {
  font-size: 11px;
  font-style: italic;
  fill: var(--magenta);
}
</style>
