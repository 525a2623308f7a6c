<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../../api/client'
import { logQuery } from '../../api/queries'
import RecordRows from '../../parts/RecordRows.vue'
import PageHead from '../../parts/PageHead.vue'
import Waiting from '../../parts/Waiting.vue'
import ImportPanel from './ImportPanel.vue'
import DateField from '../../parts/DateField.vue'
import { BASE } from '../../parts/example'

/** Everything recorded: filtered, corrected, out as a table, and in from one. */
const route = useRoute()
const filter = reactive({
  system: String(route.query.system ?? ''),
  kind: '',
  parameter: '',
  first: String(route.query.first ?? ''),
  last: String(route.query.last ?? ''),
})
/** Where something was found leads here again. */
watch(
  () => route.query,
  ({ system, first, last }) =>
    Object.assign(filter, {
      system: system ?? '',
      kind: '',
      parameter: '',
      first: first ?? '',
      last: last ?? '',
    }),
)
const before = ref('')
const earlier = ref<Schemas['LogRow'][]>([])
const query = computed(() => ({
  ...(filter.system ? { system_id: Number(filter.system) } : {}),
  ...(filter.kind ? { kind: filter.kind } : {}),
  ...(filter.parameter ? { parameter: filter.parameter } : {}),
  ...(filter.first ? { first: filter.first } : {}),
  ...(filter.last ? { last: filter.last } : {}),
}))
watch(query, () => {
  before.value = ''
  earlier.value = []
})
const { data, error, refetch } = useQuery(() => ({
  ...logQuery({ ...query.value, ...(before.value ? { before: before.value } : {}) }),
  placeholderData: (last) => last,
}))
const rows = computed(() => [...earlier.value, ...(data.value?.rows ?? [])])
function more() {
  earlier.value = rows.value
  before.value = data.value?.more ?? ''
}
const out = computed(() => {
  const words = new URLSearchParams(Object.entries(query.value).map(([key, value]) => [key, String(value)]))
  return `${BASE}/api/readings.csv?${words}`
})
const importing = ref(route.query.import !== undefined)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <PageHead title="Log">
        <span class="soft">everything recorded; a correction keeps the old value</span>
        <span class="ways no-print">
          <a :href="out" download>Readings as CSV</a>
          <button class="plain-link" type="button" :aria-expanded="importing" @click="importing = !importing">
            Import readings
          </button>
        </span>
      </PageHead>
      <ImportPanel v-if="importing" :systems="data.systems" />
      <form class="filter no-print" @submit.prevent>
        <select v-model="filter.system" aria-label="System">
          <option value="">all systems</option>
          <option v-for="one in data.systems" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select>
        <select v-model="filter.kind" aria-label="Kind of entry">
          <option value="">every kind</option>
          <option v-for="one in data.kinds" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select>
        <select v-model="filter.parameter" aria-label="Parameter">
          <option value="">every parameter</option>
          <option v-for="one in data.parameters" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select>
        <span
          >from <DateField :model-value="filter.first" inline label="from" @day="filter.first = $event"
        /></span>
        <span>to <DateField :model-value="filter.last" inline label="to" @day="filter.last = $event" /></span>
      </form>
      <p v-if="!rows.length" class="note">No entries match. Widen the filter, or start on the Bench.</p>
      <RecordRows v-else :rows="rows" caption="Entries of the ledger, latest first" />
      <v-btn v-if="data.more" class="further" @click="more">Show earlier</v-btn>
    </template>
  </div>
</template>

<style scoped>
.ways {
  margin-left: auto;
  display: flex;
  gap: 18px;
}
.filter {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  align-items: center;
  margin: 8px 0 10px;
}
select,
input {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 6px 8px;
  color: var(--ink);
  background: var(--card);
  max-width: 100%;
}
option {
  color: #14303d;
}
.further {
  margin-top: 12px;
}
</style>
