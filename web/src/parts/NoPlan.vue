<script setup lang="ts">
import type { ProblemError } from '../api/client'

/** In place of a plan whose wish cannot be planned. */
defineProps<{ problem: ProblemError }>()
</script>

<template>
  <aside class="note" role="status">
    No plan just now: {{ problem.problem.fields[0]?.message ?? problem.message }}. It comes back as soon as
    that is mended.
  </aside>
</template>
