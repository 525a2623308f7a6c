<script setup lang="ts">
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import TideStaff from './TideStaff.vue'

defineProps<{ systems: Schemas['SystemGlance'][]; days: number; current: number }>()
const route = useRoute()
function target(id: number) {
  return route.params.system
    ? { name: route.name ?? 'sheet', params: { system: id } }
    : { name: 'sheet', params: { system: id } }
}
</script>

<template>
  <aside class="rail no-print" aria-label="Systems">
    <div class="note">days ahead</div>
    <router-link
      v-for="system in systems"
      :key="system.id"
      :to="target(system.id)"
      class="one"
      :class="{ current: system.id === current }"
      :aria-current="system.id === current ? 'true' : undefined"
    >
      <span class="head">
        <b>{{ system.name }}</b>
        <i :class="system.act ? 'magenta' : 'soft'">{{ system.standing }}</i>
      </span>
      <TideStaff :marks="system.marks" :days="days" :height="118" :width="170" />
    </router-link>
  </aside>
</template>

<style scoped>
.rail {
  width: 190px;
  flex: none;
  padding: 14px 4px 30px 12px;
}
.one {
  display: block;
  text-decoration: none;
  padding: 6px 4px 2px;
  border: 1px solid transparent;
  border-radius: 4px;
}
.one.current {
  background: var(--card);
  border-color: var(--line);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding: 0 6px 2px;
  font-size: 0.95rem;
}
.head i {
  font-size: 0.8rem;
}
</style>
