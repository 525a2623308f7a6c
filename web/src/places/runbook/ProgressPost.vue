<script setup lang="ts">
import type { Schemas } from '../../api/client'

defineProps<{ steps: Schemas['StepLine'][]; number: number }>()
</script>

<template>
  <ol class="post" aria-label="Steps">
    <li
      v-for="(step, index) in steps"
      :key="step.id"
      :class="{ done: step.done, here: index === number - 1 && !step.done }"
      :aria-current="index === number - 1 && !step.done ? 'step' : undefined"
    >
      <span class="visually-hidden">{{ step.title }}{{ step.done ? ', done' : '' }}</span>
    </li>
  </ol>
</template>

<style scoped>
.post {
  list-style: none;
  display: flex;
  flex-direction: column;
  width: 16px;
  min-height: 420px;
  max-height: 640px;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--card);
  position: sticky;
  top: 20px;
}
li {
  flex: 1;
  border-top: 1px solid var(--ink);
  position: relative;
}
li:first-child {
  border-top: 0;
}
.done {
  background: var(--deep);
}
.here::before {
  content: '';
  position: absolute;
  left: -5px;
  right: -5px;
  top: -2px;
  border-top: 3px solid var(--magenta);
}
</style>
