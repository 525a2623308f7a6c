<script setup lang="ts">
/** The head of a place: its name, and what stands beside it. */
defineProps<{ title: string }>()
</script>

<template>
  <div class="page-head">
    <h1>{{ title }}</h1>
    <slot />
  </div>
</template>
