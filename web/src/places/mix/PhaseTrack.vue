<script setup lang="ts">
import { computed } from 'vue'

/** The life of a batch as a line of soundings: what is behind it, where it stands, what is to come. */
const props = defineProps<{ life: string[]; phase: string }>()
const here = computed(() => props.life.indexOf(props.phase))
</script>

<template>
  <ol aria-label="Where it stands">
    <li
      v-for="(name, index) in life"
      :key="name"
      :class="{ past: index < here, here: index === here }"
      :aria-current="index === here ? 'step' : undefined"
    >
      {{ name }}
    </li>
    <li v-if="here < 0" class="here" aria-current="step">{{ phase }}</li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
}
li {
  flex: 1;
  min-width: 76px;
  border-top: 3px solid var(--line);
  padding: 4px 8px 6px 0;
  color: var(--soft);
  font-size: 0.9rem;
}
.past {
  border-color: var(--deep);
}
.here {
  border-color: var(--magenta);
  color: var(--ink);
  font-weight: 700;
}
</style>
