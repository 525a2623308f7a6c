<script setup lang="ts">
import type { Schemas } from '../api/client'

defineProps<{ caution: Schemas['Caution'] }>()
</script>

<template>
  <div class="caution" role="note">
    <div class="title">{{ caution.title }}</div>
    <div>{{ caution.text }}</div>
  </div>
</template>

<style scoped>
.caution {
  border: 1px solid var(--line);
  border-left: 4px solid var(--magenta);
  background: var(--card);
  padding: 8px 12px;
  font-size: 0.9rem;
}
.title {
  color: var(--magenta);
  font-weight: 600;
}
</style>
