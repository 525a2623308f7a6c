<script setup lang="ts">
import { EXAMPLE } from './example'
</script>

<template>
  <p v-if="EXAMPLE" class="no-print">
    <span>This is an <b>example household</b>: try anything, none of it is yours.</span>
    <a href="/">Back to my tanks</a>
  </p>
</template>

<style scoped>
p {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  padding: 6px 18px;
  background: var(--shallow);
}
a {
  display: inline-flex;
  align-items: center;
  min-height: 32px;
  font-weight: 600;
}
</style>
