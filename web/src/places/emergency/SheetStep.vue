<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useEntry } from '../../parts/entry'

/** A step of an emergency sheet: large enough to read at arm's length. */
defineProps<{ step: Schemas['SheetStep'] }>()
const entry = useEntry()
</script>

<template>
  <li class="step">
    <span class="number" aria-hidden="true">{{ step.number }}</span>
    <div>
      <h2>
        {{ step.title }}
        <span v-if="step.minutes" class="soft">{{ step.minutes }} min</span>
      </h2>
      <p>{{ step.text }}</p>
      <p v-if="step.gear.length" class="gear">
        <span v-for="name in step.gear" :key="name">{{ name }}</span>
      </p>
      <p v-if="step.needs.length" class="soft">You need: {{ step.needs.join(', ') }}.</p>
      <p v-if="step.caution" class="caution">
        <b>{{ step.caution.title }}.</b> {{ step.caution.text }}
      </p>
      <v-btn
        v-if="step.entry"
        class="no-print"
        size="small"
        variant="outlined"
        @click="entry.asked = step.entry"
        >Record “{{ step.entry }}”</v-btn
      >
    </div>
  </li>
</template>

<style scoped>
.step {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  gap: 6px;
  padding: 10px 0 12px;
  border-top: 1px solid var(--line);
  break-inside: avoid;
}
.step:first-child {
  border-top: 0;
}
.number {
  font-size: 1.9rem;
  font-weight: 700;
  line-height: 1.15;
  color: var(--magenta);
}
h2 {
  font-size: 1.22rem;
}
h2 .soft {
  font-weight: 400;
  font-size: 0.95rem;
}
p {
  margin: 3px 0;
  font-size: 1.06rem;
}
.gear {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.gear span {
  border: 1px solid var(--soft);
  border-radius: 14px;
  padding: 1px 12px;
}
.soft,
.caution {
  font-size: 0.92rem;
}
.caution {
  border-left: 3px solid var(--magenta);
  padding-left: 10px;
}
</style>
