<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { reactive, ref, watch } from 'vue'
import { answer, api, type ProblemError, type Schemas, refusal } from '../../api/client'
import { harbourQuery, keeperQuery, useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { useNotices } from '../../parts/notices'
import { useCurrent } from '../../parts/current'
import PresetChoice from '../../parts/PresetChoice.vue'
import Waiting from '../../parts/Waiting.vue'
import { ADDITIVES, items, SCALES, WRITTEN } from './settings'
import ExampleOffer from '../../parts/ExampleOffer.vue'

const current = useCurrent()
const { data, error, refetch } = useQuery(keeperQuery)
const { data: harbour } = useQuery(harbourQuery)
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
  volume: 'L',
  length: 'cm',
  mass: 'g',
  week: 'monday',
})
type Preset = Schemas['PresetShown']
/** Takes the settings that are written in one of several ways from elsewhere. */
const takeWriting = (from: Record<string, unknown>) =>
  Object.assign(form, Object.fromEntries(WRITTEN.map(([key]) => [key, from[key]])))
function take(preset: Preset) {
  takeWriting(preset)
  Object.assign(form.units, preset.units)
}
const taken = (preset: Preset) =>
  WRITTEN.every(([key]) => form[key] === preset[key as keyof Preset]) &&
  Object.entries(preset.units).every(([name, unit]) => form.units[name] === unit)
const refused = ref<ProblemError>()
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
// Once: what is being chosen is not to be overtaken by a later answer.
const filled = ref(false)
watch(
  data,
  (now) => {
    if (!now || filled.value) return
    filled.value = true
    takeWriting(now)
    Object.assign(form, { zone: now.zone, additive: now.additive, scale_g: now.scale_g })
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
      <p v-if="harbour?.example" class="also"><ExampleOffer /></p>
      <form class="card" @submit.prevent="keep">
        <PresetChoice class="wide" :presets="data.presets" :taken="taken" @take="take" />
        <v-select
          v-for="[key, name, ways] in WRITTEN"
          :key="key"
          v-model="form[key]"
          :label="name"
          :items="items(ways)"
        />
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
        <v-select v-model="form.additive" label="Alkalinity is raised with" :items="ADDITIVES" />
        <v-select
          v-model="form.scale_g"
          label="Least your scale can weigh"
          :items="SCALES"
          hint="A lighter dose is given as mL of a stock solution, with its recipe."
          persistent-hint
        />
        <p class="note">
          A typed unit, such as 5 gal or 2.9 meq/L, always wins, whatever is set here. Files always have a
          decimal point, ISO dates and metric units, named in their headings. Doses are in mL, as syringes and
          pumps are marked; derivations are worked out in metric, with your unit beside it.
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
.wide,
form .note,
form > .v-btn {
  grid-column: 1 / -1;
  justify-self: start;
}
form {
  display: grid;
  gap: 16px;
  padding: 18px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  align-items: start;
  max-width: 920px;
  margin-top: 12px;
}
</style>
