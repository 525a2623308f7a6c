<script setup lang="ts">
import type { Schemas } from '../../api/client'
import NumberField from '../failure/NumberField.vue'

/** The unit as it is built, its water, its store and its prices. */
const model = defineModel<Schemas['RoUnitBody']>({ required: true })
defineProps<{ unit: string; wrong: (field: string) => string | undefined }>()
type Key = Exclude<keyof Schemas['RoUnitBody'], 'supply' | 'separate' | 'carbon_blocks'>
const UNIT: [Key, string, string][] = [
  ['rated_l_day', 'Membrane, rated', 'L a day'],
  ['rated_bar', 'at', 'bar'],
  ['pressure_bar', 'Pressure now', 'bar'],
  ['measured_l_h', 'Flow as timed (empty: not)', 'L/h'],
  ['sediment_l', 'Sediment, rated for', 'L'],
  ['carbon_l', 'Carbon block, rated for', 'L'],
  ['resin_l', 'Resin (each bed)', 'L'],
  ['carbon_dioxide_mg_l', 'Carbon dioxide in tap water', 'mg/L'],
  ['store_l', 'Fresh water store holds', 'L'],
  ['stored_l', 'In it now', 'L'],
]
const PRICES: [Key, string][] = [
  ['sediment_price', 'Sediment'],
  ['carbon_price', 'Carbon'],
  ['membrane_price', 'Membrane'],
  ['resin_price', 'Resin'],
  ['water_price', '1000 L of tap water'],
]
const SUPPLIES = [
  { title: 'not known yet', value: 'unknown' },
  { title: 'chlorine', value: 'chlorine' },
  { title: 'chloramine', value: 'chloramine' },
]
const BLOCKS = [1, 2, 3, 4].map((value) => ({ title: String(value), value }))
</script>

<template>
  <fieldset class="card">
    <legend>As it is built</legend>
    <div class="fields">
      <NumberField
        v-for="[key, name, one] in UNIT"
        :key="key"
        v-model="model[key]"
        :label="name"
        :unit="one"
        :zero="key !== 'measured_l_h'"
        :error="wrong(key)"
      />
      <NumberField v-model="model.feed" label="Tap water" :unit="unit" :error="wrong('feed')" />
      <v-select v-model="model.supply" :items="SUPPLIES" label="Disinfected with" />
      <v-select v-model="model.carbon_blocks" :items="BLOCKS" label="Carbon blocks" />
    </div>
    <label class="tick"
      ><input v-model="model.separate" type="checkbox" /> Separate resin beds: cation, anion, then
      mixed</label
    >
    <h3>Prices</h3>
    <div class="fields">
      <NumberField
        v-for="[key, name] in PRICES"
        :key="key"
        v-model="model[key]"
        :label="name"
        zero
        :error="wrong(key)"
      />
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  padding: 14px 16px;
  min-width: 0;
}
legend {
  font-weight: 600;
  font-size: 1.1rem;
  float: left;
  width: 100%;
  margin-bottom: 10px;
}
.fields {
  clear: both;
}
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 40px;
}
h3 {
  font-size: 1rem;
  margin: 6px 0 10px;
}
</style>
