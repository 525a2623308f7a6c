<script setup lang="ts">
import type { Schemas } from '../api/client'
import RecordRows from './RecordRows.vue'

/** Systems whose figures cannot be computed: why, and the way back. */
defineProps<{ systems: Schemas['BrokenSystem'][] }>()
</script>

<template>
  <section
    v-for="one in systems"
    :key="one.system_id"
    class="card broken"
    role="alert"
    :aria-label="`${one.name} cannot be shown`"
  >
    <h2 class="magenta">{{ one.name }} cannot be shown</h2>
    <p>{{ one.words }}</p>
    <RecordRows :rows="one.entries" :caption="`Entered last in ${one.name}`" />
    <p class="ways">
      <router-link :to="{ name: 'log', query: { system: one.system_id } }">all its entries</router-link>
      <router-link :to="{ name: 'containers', params: { system: one.system_id } }"
        >its pumps and containers</router-link
      >
      <router-link :to="{ name: 'setup', params: { system: one.system_id } }">its set-up</router-link>
      <span class="soft">error {{ one.reference }}</span>
    </p>
  </section>
</template>

<style scoped>
.broken {
  padding: 14px 16px;
  margin-bottom: 14px;
  border-left: 4px solid var(--magenta);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  margin-top: 10px;
}
</style>
