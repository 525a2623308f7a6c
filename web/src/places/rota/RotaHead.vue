<script setup lang="ts">
import { computed } from 'vue'
import { useCurrent } from '../../parts/current'
import PlaceHead from '../../parts/PlaceHead.vue'

/** The head of every part of the Rota. */
defineProps<{ side: string }>()
const current = useCurrent()
const ways = computed(() => [
  { name: 'Weeks', to: { name: 'rota' } },
  { name: 'Round', to: { name: 'round' } },
  { name: 'Year', to: { name: 'year' } },
  ...(current.id
    ? [{ name: 'Tasks', to: { name: 'tasks', params: { system: current.id } }, within: true }]
    : []),
  { name: 'Your time', to: { name: 'time' } },
  { name: 'Calendar', to: { name: 'calendar' } },
])
</script>

<template>
  <PlaceHead title="Rota" :side="side" :ways="ways" />
</template>
