<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { Cover } from './useProgramme'

/** How much of it there is, in four steps. */
defineProps<{ coverages: Schemas['Choice'][]; label: string }>()
const chosen = defineModel<Cover | ''>({ required: true })
</script>

<template>
  <div class="steps" role="radiogroup" :aria-label="label">
    <button
      v-for="(one, level) in coverages"
      :key="one.key"
      type="button"
      role="radio"
      :aria-checked="chosen === one.key"
      @click="chosen = one.key as Cover"
    >
      <svg viewBox="0 0 48 30" aria-hidden="true">
        <rect x="1" y="1" width="46" height="28" rx="4" class="ground" />
        <rect v-if="level" x="1" y="1" :width="[0, 5, 16, 46][level]" height="28" rx="3" class="film" />
      </svg>
      <span>{{ one.name }}</span>
    </button>
  </div>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 190px), 1fr));
  gap: 8px;
}
button {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 52px;
  padding: 8px 12px;
  text-align: left;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
button[aria-checked='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px var(--ink);
}
svg {
  width: 40px;
  flex: none;
}
.ground {
  fill: none;
  stroke: var(--soft);
}
.film {
  fill: var(--soft);
}
</style>
