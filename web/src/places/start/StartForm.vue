<script setup lang="ts">
import { nextTick, ref } from 'vue'
import type { Schemas } from '../../api/client'
import DraftNote from '../../parts/DraftNote.vue'
import FieldText from '../../parts/FieldText.vue'
import FirstPlan from './FirstPlan.vue'
import { ASKED, useStart } from './useStart'
import DateField from '../../parts/DateField.vue'
import UnitsChoice from './UnitsChoice.vue'

/** The first ten minutes: a name and the litres are enough; each further answer says what it adds. */
const props = defineProps<{ setup: Schemas['SetupAnswer'] }>()
const start = useStart(() => props.setup)
const { form } = start
const head = ref<HTMLElement>()
const stages = [
  { title: 'running, with animals', value: 'running' },
  { title: 'new, still cycling', value: 'breaking_in' },
]
const presets = props.setup.presets.map((one) => ({ title: one.name, value: one.key }))
const EXAMPLE: Record<string, string> = {
  temperature: '25.3', salinity: '34.8', alkalinity: '7.9', calcium: '420', magnesium: '1320', nitrate: '5',
  phosphate: '0.04', ph: '8.1',
} // prettier-ignore
async function begin() {
  await start.begin()
  await nextTick()
  if (start.begun.value) head.value?.focus()
}
</script>

<template>
  <div class="page-head">
    <h1 ref="head" tabindex="-1">
      {{ start.begun.value ? `${start.begun.value.name}, your first plan` : 'Your tank' }}
    </h1>
    <span v-if="!start.begun.value" class="soft"
      >a name and the volume are enough; leave blank what you do not know</span
    >
  </div>
  <FirstPlan v-if="start.begun.value" :system="start.begun.value.id" />
  <form v-else novalidate @submit.prevent="begin">
    <DraftNote :draft="start.draft" />
    <section class="card part">
      <h2>1 The tank</h2>
      <UnitsChoice class="mb-3" />
      <div class="fields">
        <FieldText
          v-model="form.system.name"
          label="Name"
          type="text"
          autofocus
          :error="start.wrong('name')"
        />
        <FieldText
          v-model="form.system.size.stated_l!"
          label="Volume, as the tank is sold"
          unit="L"
          :error="start.wrong('geometry.stated_l')"
        />
        <v-select v-model="form.system.stage" :items="stages" label="It is" />
        <v-select v-model="form.preset" :items="presets" label="What lives in it" />
      </div>
      <p class="note">
        Any unit works when you type it: 55 US gal, 200 l. Its inside dimensions give a better figure and a
        mark for the tape; you can add them in Set-up.
      </p>
    </section>
    <section class="card part">
      <h2>2 Gear</h2>
      <div class="ticks">
        <label v-for="one in setup.gear" :key="one.key">
          <input v-model="form.system.gear[one.key]!.on" type="checkbox" /> {{ one.name }}
        </label>
      </div>
      <p class="note">What is ticked gets its upkeep on the rota.</p>
    </section>
    <section class="card part">
      <h2>3 Salt and additives</h2>
      <div class="fields">
        <FieldText
          v-model="form.salt"
          label="Salt, the name on the bucket"
          type="text"
          :error="start.wrong('salt')"
        />
        <FieldText
          v-model="form.strength"
          label="Strength on the label"
          unit="g/L"
          :error="start.wrong('salt_g_l')"
          hint="Grams per litre at 35 ppt. Blank: 35 g per kilogram of water until you measure a batch."
        />
      </div>
      <div class="ticks">
        <label>
          <input v-model="form.additives" type="checkbox" /> put the common additives on the Shelf: soda ash,
          baking soda, calcium chloride, magnesium chloride
        </label>
      </div>
      <p class="note">Without a salt there is no amount for a water change; without additives no dose.</p>
    </section>
    <section class="card part">
      <h2>4 Today's tests</h2>
      <div class="fields">
        <FieldText
          v-for="row in setup.bands"
          :key="row.parameter"
          v-model="form.results[row.parameter]!"
          :label="row.name"
          :unit="row.unit"
          :placeholder="EXAMPLE[row.parameter]"
          :error="start.wrong(row.parameter)"
        />
      </div>
      <label v-if="start.doubted.value" class="tick"
        ><input v-model="form.confirmed" type="checkbox" /> these results are right, save them</label
      >
      <p class="note">
        One test of alkalinity says what to dose today; two, some days apart, say roughly what a day uses;
        four over a week, with a range.
      </p>
    </section>
    <section class="card part">
      <h2>5 Last done</h2>
      <div class="fields">
        <DateField
          v-for="task in ASKED"
          :key="task.key"
          v-model="form.last[task.key]!"
          :label="task.name"
          :error="start.wrong(`last.${task.key}`)"
        />
      </div>
      <p class="note">The rota counts from these days; what is left blank counts from today.</p>
    </section>
    <div class="end">
      <p v-if="start.refused.value" class="magenta" role="alert">{{ start.refused.value.message }}</p>
      <v-btn type="submit" variant="flat" :loading="start.busy.value">Set up and show the first plan</v-btn>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  max-width: 1080px;
}
.part {
  padding: 12px 18px 14px;
  display: grid;
  gap: 10px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 12px;
}
.ticks {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
}
.ticks label,
.tick {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-height: 28px;
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
.end {
  display: grid;
  gap: 8px;
  justify-items: start;
}
h1:focus {
  outline: none;
}
</style>
