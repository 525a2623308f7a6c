<script setup lang="ts">
import type { RouteLocationRaw } from 'vue-router'

/** The head of a place of several parts, with the ways to the others. */
defineProps<{
  title: string
  side: string
  ways: { name: string; to: RouteLocationRaw; within?: boolean }[]
}>()
</script>

<template>
  <div class="page-head">
    <h1>{{ title }}</h1>
    <span class="soft">{{ side }}</span>
    <span class="grow" />
    <nav class="no-print" :aria-label="`Parts of ${title}`">
      <router-link
        v-for="way in ways"
        :key="way.name"
        :to="way.to"
        exact-active-class="here"
        :active-class="way.within ? 'here' : ''"
        class="part"
        >{{ way.name }}</router-link
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
