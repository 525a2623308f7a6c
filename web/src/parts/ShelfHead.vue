<script setup lang="ts">
import PlaceHead from './PlaceHead.vue'

/** The head of what there is: the Shelf, and the Gear with its life. */
defineProps<{ title: string; side: string }>()
const ways = [
  { name: 'Shelf', to: { name: 'shelf' } },
  { name: 'Gear', to: { name: 'gear' } },
]
</script>

<template>
  <PlaceHead :title="title" :side="side" :ways="ways" />
</template>
