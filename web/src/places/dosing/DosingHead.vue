<script setup lang="ts">
import { useRoute } from 'vue-router'

/** The head of every part of Dosing, with the ways to the others. */
defineProps<{ name?: string; side: string }>()
const params = { system: useRoute().params.system }
const PARTS = [
  ['dosing', 'Routine'],
  ['correction', 'Correction'],
  ['day-night', 'Day and night'],
  ['containers', 'Containers'],
  ['stock', 'Stock and media'],
] as const
</script>

<template>
  <div class="page-head">
    <h1>Dosing</h1>
    <span class="soft">{{ name ? `${name}, ${side}` : side }}</span>
    <span class="grow" />
    <nav class="no-print" aria-label="Parts of dosing">
      <router-link
        v-for="[key, title] in PARTS"
        :key="key"
        :to="{ name: key, params }"
        exact-active-class="here"
        class="part"
        >{{ title }}</router-link
      >
    </nav>
  </div>
</template>

<style scoped>
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.part {
  text-decoration: none;
  padding: 4px 0;
  border-bottom: 3px solid transparent;
  white-space: nowrap;
}
.part:hover {
  border-color: var(--line);
}
.part.here {
  font-weight: 700;
  border-color: var(--ink);
}
</style>
