<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { reactive, ref, watch } from 'vue'
import { answer, api, type ProblemError, type Schemas, refusal } from '../../api/client'
import { keeperQuery, useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { useNotices } from '../../parts/notices'
import { useCurrent } from '../../parts/current'
import Waiting from '../../parts/Waiting.vue'

const current = useCurrent()
const { data, error, refetch } = useQuery(keeperQuery)
const notices = useNotices()
const refresh = useRefresh()
const form = reactive({
  zone: '',
  units: {} as Record<string, string>,
  decimal_sign: '.',
  gallon: 'ask',
  additive: 'soda_ash',
  days: 'day_first',
  clock: '24',
  scale_g: 0.05,
})
const SIGNS = [
  { title: 'point: 8.2', value: '.' },
  { title: 'comma: 8,2', value: ',' },
]
const DAYS = [
  { title: '24 Nov', value: 'day_first' },
  { title: 'Nov 24', value: 'month_first' },
  { title: '2026-11-24', value: 'iso' },
]
const CLOCKS = [
  { title: '17:40', value: '24' },
  { title: '5:40 pm', value: '12' },
]
const GALLONS = [
  { title: 'is queried', value: 'ask' },
  { title: 'US gallon, 3.785 L', value: 'us' },
  { title: 'imperial gallon, 4.546 L', value: 'imperial' },
]
const SCALES = [
  { title: '0.01 g', value: 0.01 },
  { title: '0.05 g', value: 0.05 },
  { title: '0.1 g', value: 0.1 },
  { title: '0.5 g', value: 0.5 },
  { title: '1 g', value: 1 },
]
const ADDITIVES = [
  { title: 'soda ash, Na₂CO₃: stronger, lifts pH', value: 'soda_ash' },
  { title: 'baking soda, NaHCO₃: gentle on pH', value: 'baking_soda' },
]
const refused = ref<ProblemError>()
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
// Once: what is being chosen is not to be overtaken by a later answer.
const filled = ref(false)
watch(
  data,
  (now) => {
    if (!now || filled.value) return
    filled.value = true
    form.zone = now.zone
    form.decimal_sign = now.decimal_sign
    form.gallon = now.gallon
    form.additive = now.additive
    form.days = now.days
    form.clock = now.clock
    form.scale_g = now.scale_g
    form.units = Object.fromEntries(now.units.map((row) => [row.parameter, row.chosen]))
  },
  { immediate: true },
)
async function keep() {
  refused.value = undefined
  try {
    await answer(api.PUT('/api/keeper', { body: { ...form } as Schemas['KeeperBody'] }))
    notices.say('Settings saved.')
    await refresh()
  } catch (fault) {
    refused.value = refusal(fault)
  }
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <h1>Settings</h1>
      <p class="also">
        See also: <router-link :to="{ name: 'shelf' }">instruments on the shelf</router-link> ·
        <router-link :to="{ name: 'setup', params: { system: current.id } }">set-up of a system</router-link>
        ·
        <router-link :to="{ name: 'new-system' }">a new system</router-link>
      </p>
      <form class="card" @submit.prevent="keep">
        <v-select
          v-for="row in data.units"
          :key="row.parameter"
          v-model="form.units[row.parameter]"
          :label="row.name"
          :items="row.units.map((unit) => ({ title: unit.label, value: unit.key }))"
        />
        <FieldText
          v-model="form.zone"
          label="Time zone"
          type="text"
          :error="refused?.at('zone')"
          :hint="here !== form.zone ? `this device is set to ${here}` : undefined"
        />
        <v-select v-model="form.decimal_sign" label="Decimal sign" :items="SIGNS" />
        <v-select v-model="form.days" label="Dates" :items="DAYS" />
        <v-select v-model="form.clock" label="Times" :items="CLOCKS" />
        <v-select v-model="form.gallon" label="“gal” means" :items="GALLONS" />
        <v-select v-model="form.additive" label="Alkalinity is raised with" :items="ADDITIVES" />
        <v-select
          v-model="form.scale_g"
          label="Least your scale can weigh"
          :items="SCALES"
          hint="A lighter dose is given as mL of a stock solution, with its recipe."
          persistent-hint
        />
        <p class="note">
          Files and their columns always have a decimal point and ISO dates. A typed unit, such as 2.9 meq/L,
          always wins; a number that could mean two things is queried.
        </p>
        <v-btn type="submit" variant="flat">Save</v-btn>
      </form>
      <p class="soft mt-4">
        Salt Tide is free under the MIT licence.
        <a href="/licences.txt" target="_blank" rel="noopener"
          >What its pages are built from, and its licences</a
        >
      </p>
    </template>
  </div>
</template>

<style scoped>
.also {
  font-size: 0.9rem;
  margin-top: 6px;
}
form {
  display: grid;
  gap: 16px;
  padding: 18px;
  max-width: 460px;
  margin-top: 12px;
}
</style>
