<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import ChemText from './ChemText.vue'
import Working from './Working.vue'

defineProps<{ figures: Schemas['Figure'][]; head?: string }>()
const open = ref<string>()
const all = ref(false)
</script>

<template>
  <div class="part-head">
    <h2>{{ head ?? 'What it takes' }}</h2>
    <button class="plain-link" type="button" :aria-pressed="all" @click="all = !all">
      {{ all ? 'hide working' : 'show working' }}
    </button>
  </div>
  <div v-if="!figures.length" class="note">Nothing left to do on this day.</div>
  <div v-for="figure in figures" :key="figure.key" class="figure">
    <button
      type="button"
      class="value"
      :aria-expanded="all || open === figure.key"
      :aria-label="`${figure.value.text} ${figure.value.unit}, ${figure.words}; show working`"
      @click="open = open === figure.key ? undefined : figure.key"
    >
      {{ figure.value.text }} <span class="unit">{{ figure.value.unit }}</span>
    </button>
    <span class="soft words"><ChemText :text="figure.words" /></span>
    <Working
      v-if="(all || open === figure.key) && figure.working.length"
      :steps="figure.working"
      class="derivation"
    />
  </div>
</template>

<style scoped>
.figure {
  display: grid;
  grid-template-columns: 116px 1fr;
  gap: 0 14px;
  align-items: baseline;
  border-top: 1px solid var(--line);
  padding: 7px 0;
}
.value {
  font-size: 1.15rem;
  font-weight: 700;
  text-align: right;
  background: none;
  border: 0;
  color: var(--ink);
  cursor: pointer;
  white-space: nowrap;
}
.value:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.value .unit {
  color: var(--ink);
  font-weight: 600;
}
.words {
  font-size: 0.9rem;
  line-height: 1.25;
}
.derivation {
  grid-column: 1 / -1;
}
@media print {
  .figure {
    grid-template-columns: 84px 1fr;
    padding: 2px 0;
  }
}
</style>
