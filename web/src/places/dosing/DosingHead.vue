<script setup lang="ts">
import { useRoute } from 'vue-router'
import PlaceHead from '../../parts/PlaceHead.vue'

/** The head of every part of Dosing. */
defineProps<{ name?: string; side: string }>()
const params = { system: useRoute().params.system }
const ways = [
  ['dosing', 'Routine'],
  ['correction', 'Correction'],
  ['day-night', 'Day and night'],
  ['containers', 'Containers'],
  ['stock', 'Stock and media'],
].map(([key, name]) => ({ name: name!, to: { name: key!, params } }))
</script>

<template>
  <PlaceHead title="Dosing" :side="name ? `${name}, ${side}` : side" :ways="ways" />
</template>
