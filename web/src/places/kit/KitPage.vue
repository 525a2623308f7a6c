<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, command } from '../../api/client'
import { kitQuery } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import TickList from '../../parts/TickList.vue'
import Waiting from '../../parts/Waiting.vue'
import DateField from '../../parts/DateField.vue'

const route = useRoute()
const id = Number(route.params.system)
const day = ref(typeof route.query.day === 'string' ? route.query.day : undefined)
const wanted = computed(() => ({ id, day: day.value }))
const { data, error, refetch } = useQuery(() => kitQuery(wanted.value))
const cache = useQueryCache()
const notices = useNotices()
const items = computed(() =>
  (data.value?.lines ?? []).map((line) => ({
    key: line.key,
    name: `${line.name} ${line.amount}`.trim(),
    words: `${line.why} · ${line.asked_by}`,
    ticked: line.packed,
  })),
)
const print = () => window.print()

async function pack(item: string, packed: boolean) {
  const shown = data.value
  if (!shown) return
  try {
    const now = await command((header) =>
      api.POST('/api/systems/{system_id}/kit/{item}', {
        params: { path: { system_id: id, item }, header },
        body: { day: shown.day, packed },
      }),
    )
    cache.setQueryData(kitQuery(wanted.value).key, now)
  } catch (fault) {
    notices.fail(fault)
    await refetch()
  }
}
</script>

<template>
  <div class="page kit">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Kit list, {{ data.system }}</h1>
        <DateField
          :model-value="data.day"
          inline
          ahead
          label="Day of the visit"
          class="no-print"
          @day="day = $event || undefined"
        />
        <span class="soft" aria-live="polite">{{ data.day_words }} · {{ data.words }}</span>
        <span class="grow" />
        <button class="plain-link no-print" type="button" @click="print()">print</button>
      </div>
      <p v-if="data.work.length" class="note mb-3">For: {{ data.work.join(', ') }}.</p>
      <p v-if="!data.lines.length">
        Nothing is due on this day. Plan a change or choose another day.
        <router-link :to="{ name: 'change', params: { system: id } }">Plan a change</router-link>
      </p>
      <TickList :items="items" @tick="pack" />
    </template>
  </div>
</template>

<style scoped>
.kit {
  max-width: 760px;
}
</style>
