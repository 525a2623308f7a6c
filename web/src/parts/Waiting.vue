<script setup lang="ts">
import { ProblemError } from '../api/client'

/** What stands in a page's place until its data is there, or instead of it. */
defineProps<{ error: Error | null; retry: () => unknown }>()
</script>

<template>
  <div v-if="error" class="waiting" role="alert">
    <h2>{{ error instanceof ProblemError ? error.problem.title : 'Not shown' }}</h2>
    <p>{{ error.message }}</p>
    <v-btn class="mt-3" @click="retry()">Try again</v-btn>
  </div>
  <p v-else class="waiting note" role="status">Reading the record …</p>
</template>

<style scoped>
.waiting {
  padding: 48px 0;
  max-width: 46ch;
}
</style>
