<script setup lang="ts">
/** The line of a plan: told apart by its stroke, and by its letter at the end. */
defineProps<{ place: number }>()
</script>

<template>
  <svg width="34" height="10" aria-hidden="true"><path d="M1 5h32" :class="`plan-${place}`" /></svg>
</template>

<style>
.plan-0,
.plan-1,
.plan-2 {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.plan-1 {
  stroke-dasharray: 9 4;
}
.plan-2 {
  stroke-dasharray: 2 3;
  stroke-width: 2.4;
}
</style>
