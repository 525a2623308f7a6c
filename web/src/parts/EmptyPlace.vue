<script setup lang="ts">
import type { Place } from './places'

/** A place of a tank, where there is no tank yet: what it is for, and the first thing to do. */
defineProps<{ place?: Place }>()
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ place?.name ?? 'No tank yet' }}</h1>
    </div>
    <div class="card empty">
      <p>{{ place?.about ?? 'This page is about one tank.' }}</p>
      <p>There is no tank yet. Its name and its litres are enough to start.</p>
      <v-btn variant="flat" :to="{ name: 'start' }">Start with your tank</v-btn>
    </div>
  </div>
</template>

<style scoped>
.empty {
  padding: 20px 24px;
  max-width: 620px;
  display: grid;
  gap: 10px;
  justify-items: start;
}
</style>
