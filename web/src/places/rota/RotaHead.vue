<script setup lang="ts">
import { useCurrent } from '../../parts/current'

/** The head of every part of the Rota, with the ways to the others. */
defineProps<{ side: string }>()
const current = useCurrent()
</script>

<template>
  <div class="page-head">
    <h1>Rota</h1>
    <span class="soft">{{ side }}</span>
    <span class="grow" />
    <nav class="no-print" aria-label="Parts of the rota">
      <router-link :to="{ name: 'rota' }" exact-active-class="here">Weeks</router-link>
      <router-link :to="{ name: 'round' }" exact-active-class="here">Round</router-link>
      <router-link :to="{ name: 'year' }" exact-active-class="here">Year</router-link>
      <router-link
        v-if="current.id"
        :to="{ name: 'tasks', params: { system: current.id } }"
        active-class="here"
        >Tasks</router-link
      >
      <router-link :to="{ name: 'time' }" exact-active-class="here">Your time</router-link>
      <router-link :to="{ name: 'calendar' }" exact-active-class="here">Calendar</router-link>
    </nav>
  </div>
</template>

<style scoped>
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
nav a {
  text-decoration: none;
  padding: 4px 0;
  border-bottom: 3px solid transparent;
  white-space: nowrap;
}
nav a:hover {
  border-color: var(--line);
}
nav a.here {
  font-weight: 700;
  border-color: var(--ink);
}
</style>
