<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'

/** The times that a task was done or skipped, with what was found. */
const props = defineProps<{ times: Schemas['Time'][] }>()
const SHORT = 8
const all = ref(false)
const shown = computed(() => (all.value ? props.times : props.times.slice(0, SHORT)))
const words = (time: Schemas['Time']) =>
  [time.zone, ...time.found, time.skipped && `skipped: ${time.skipped}`].filter(Boolean).join(' · ')
</script>

<template>
  <h2>What was done</h2>
  <p v-if="!times.length" class="note">Not recorded yet. Each time you do it will be listed here.</p>
  <table v-else class="times">
    <tbody>
      <tr v-for="time in shown" :key="time.entry_id">
        <th scope="row">{{ time.words }}</th>
        <td class="number">{{ time.minutes === null ? '' : `${time.minutes} min` }}</td>
        <td>{{ words(time) || 'done' }}</td>
      </tr>
    </tbody>
  </table>
  <button v-if="times.length > SHORT" class="plain-link" type="button" @click="all = !all">
    {{ all ? 'only the latest' : `all ${times.length}` }}
  </button>
</template>

<style scoped>
.times {
  border-collapse: collapse;
  width: 100%;
  margin: 4px 0 6px;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 4px 14px 4px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
th {
  white-space: nowrap;
}
.number {
  text-align: right;
  white-space: nowrap;
}
</style>
