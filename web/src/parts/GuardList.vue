<script setup lang="ts">
import type { Schemas } from '../api/client'

/** When something is wrong: what first, and whether to call. */
defineProps<{ guards: Schemas['GuardShown'][] }>()
</script>

<template>
  <ul>
    <li v-for="guard in guards" :key="guard.key">
      <b>{{ guard.when }}:</b> {{ guard.do }}
      <b v-if="guard.call" class="magenta">Call.</b>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  padding: 2px 0;
}
</style>
