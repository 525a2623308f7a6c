<script setup lang="ts">
import type { Schemas } from '../api/client'
import CautionNote from './CautionNote.vue'

/** Cautions below each other. */
defineProps<{ cautions: Schemas['Caution'][] }>()
</script>

<template>
  <CautionNote v-for="one in cautions" :key="one.key" :caution="one" class="mt-3" />
</template>
