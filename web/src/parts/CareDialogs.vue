<script setup lang="ts">
import ChangedDialog from './ChangedDialog.vue'
import SkipDialog from './SkipDialog.vue'
import type { Care } from './care'

/** What is asked before a task is skipped, or ticked off with the water it moved. */
defineProps<{ care: Care }>()
</script>

<template>
  <SkipDialog :care="care" />
  <ChangedDialog :care="care" />
</template>
