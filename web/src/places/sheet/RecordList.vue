<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { recordQuery } from '../../api/queries'
import RecordRows from '../../parts/RecordRows.vue'

const props = defineProps<{ system: number }>()
const { data } = useQuery(() => recordQuery(props.system))
</script>

<template>
  <details class="record no-print">
    <summary>Record</summary>
    <p v-if="!data?.length" class="note">Nothing is recorded yet.</p>
    <RecordRows v-else :rows="data" caption="Latest entries of the ledger" />
    <router-link :to="{ name: 'log', query: { system: props.system } }">all of it in the log</router-link>
  </details>
</template>

<style scoped>
.record {
  margin-top: 14px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
summary {
  font-weight: 700;
  cursor: pointer;
}
</style>
