<script setup lang="ts">
import type { Schemas } from '../api/client'
import MathText from './MathText.vue'

/** A derivation, in the order a person would check it on paper. */
defineProps<{ steps: Schemas['WorkingStep'][] }>()
</script>

<template>
  <ol class="working">
    <li v-for="(step, index) in steps" :key="index">
      <div class="name">{{ step.name }}</div>
      <div class="formula">
        <i><MathText :text="step.symbol" /></i> = <MathText :text="step.formula" /> =
        <b>{{ step.value }}</b><span class="unit">{{ step.unit }}</span>
      </div>
      <ul>
        <li v-for="input in step.inputs" :key="input.symbol">
          <i><MathText :text="input.symbol" /></i> = {{ input.value
          }}<span class="unit">{{ input.unit }}</span>
          <span v-if="input.note" class="soft">{{ input.note }}</span>
        </li>
      </ul>
      <div class="note">{{ step.source }}</div>
    </li>
  </ol>
</template>

<style scoped>
.working {
  list-style: none;
  padding: 8px 12px;
  margin: 6px 0 10px;
  border-left: 2px solid var(--deep);
  background: var(--card);
  font-size: 0.875rem;
}
.working > li + li {
  margin-top: 10px;
}
.name {
  font-weight: 600;
}
.unit {
  margin-left: 4px;
}
.soft {
  margin-left: 6px;
}
.formula {
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  padding-left: 14px;
}
</style>
