<script setup lang="ts">
import { DRAWINGS } from './drawings'

/** What an answer looks like, as a line drawing. */
defineProps<{ name: string }>()
</script>

<template>
  <svg v-if="DRAWINGS[name]" viewBox="0 0 64 48" aria-hidden="true">
    <path v-for="line in DRAWINGS[name]" :key="line" :d="line" />
  </svg>
</template>

<style scoped>
svg {
  width: 84px;
  max-width: 100%;
  height: auto;
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
