<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { answer, api } from '../../api/client'
import { rotaQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import { dayWords } from '../../parts/wall'

/** What the app can say after the first answers: the salt of a change, today's dose, this week, the next tests. */
const props = defineProps<{ system: number }>()
const path = { system_id: props.system }
const change = useQuery({
  key: ['first-change', props.system],
  query: async () => {
    const offer = await answer(api.GET('/api/systems/{system_id}/change', { params: { path } }))
    if (!offer.request) return { missing: offer.missing, plan: undefined }
    const body = offer.request
    const plan = await answer(api.POST('/api/systems/{system_id}/change/preview', { params: { path }, body }))
    return { missing: [], plan }
  },
})
const judged = useQuery({
  key: ['first-judgement', props.system],
  query: () => answer(api.GET('/api/systems/{system_id}/judgement', { params: { path } })),
})
const bench = useQuery({
  key: ['first-bench', props.system],
  query: () => answer(api.GET('/api/systems/{system_id}/bench', { params: { path } })),
})
const rota = useQuery(rotaQuery(7))
const figures = computed(() => change.data.value?.plan?.steps[0]?.figures.slice(0, 3) ?? [])
const dose = computed(() => judged.data.value?.findings.find((one) => one.move === 'dose'))
const alkalinity = computed(() => bench.data.value?.rows.find((row) => row.parameter === 'alkalinity')?.last)
const week = computed(() => {
  const lane = rota.data.value?.lanes.find((one) => one.system_id === props.system)
  return [...(lane?.tasks ?? [])].sort((a, b) => a.day.localeCompare(b.day))
})
const tests = computed(() => bench.data.value?.rows.filter((row) => row.usual && row.again) ?? [])
const never = computed(() =>
  (bench.data.value?.rows ?? []).filter((row) => row.usual && !row.last).map((row) => row.name),
)
</script>

<template>
  <Waiting
    v-if="!bench.data.value || !judged.data.value || !rota.data.value"
    :error="bench.error.value"
    :retry="bench.refetch"
  />
  <div v-else class="plan">
    <section class="card">
      <h2>A water change</h2>
      <template v-if="figures.length">
        <p v-for="one in figures" :key="one.key">
          <b>{{ one.value.text }} {{ one.value.unit }}</b> {{ one.words }}
        </p>
      </template>
      <p v-else class="soft">
        For an amount of salt it still needs:
        {{ change.data.value?.missing?.join(', ').toLowerCase() || 'a salt' }}.
      </p>
      <v-btn size="small" :to="{ name: 'change', params: { system } }">Plan a change</v-btn>
    </section>
    <section class="card">
      <h2>Today's dose</h2>
      <template v-if="dose">
        <p>
          <b>{{ dose.words }}.</b> {{ dose.reason }}
        </p>
        <p>{{ dose.advice }}</p>
        <p v-if="dose.cautions.length" class="magenta small">
          {{ dose.cautions.map((one) => one.title).join(' · ') }}
        </p>
      </template>
      <p v-else-if="alkalinity">
        Nothing to dose: alkalinity is {{ alkalinity.value.text }} {{ alkalinity.value.unit }}, in band.
      </p>
      <p v-else class="soft">Test alkalinity first: without it no dose is safe.</p>
      <p class="note">
        Two tests some days apart show roughly what a day uses; four over a week show it with a range.
      </p>
      <v-btn size="small" :to="{ name: 'dosing', params: { system } }">To Dosing</v-btn>
    </section>
    <section class="card">
      <h2>This week</h2>
      <ul v-if="week.length">
        <li v-for="task in week" :key="task.task + task.due">
          <span class="soft day">{{ dayWords(Date.parse(task.day)) }}</span> {{ task.name }}
          <span class="soft">{{ task.minutes }} min</span>
        </li>
      </ul>
      <p v-else class="soft">Nothing is due this week.</p>
      <v-btn size="small" :to="{ name: 'rota' }">To the Rota</v-btn>
    </section>
    <section class="card">
      <h2>Test next</h2>
      <p v-if="never.length">Not tested yet: {{ never.join(', ') }}.</p>
      <p v-for="row in tests" :key="row.parameter">
        <b>{{ row.name }}</b> <span class="soft">{{ row.again }}</span>
      </p>
      <v-btn size="small" variant="flat" :to="{ name: 'bench', params: { system } }">To the Bench</v-btn>
    </section>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 12px;
  max-width: 1080px;
}
.card {
  padding: 12px 18px 16px;
  display: grid;
  gap: 8px;
  align-content: start;
  justify-items: start;
}
ul {
  list-style: none;
  padding: 0;
}
.day {
  display: inline-block;
  min-width: 84px;
}
</style>
