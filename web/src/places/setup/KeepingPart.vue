<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import type { SetupModel } from './useSetup'

/** Sand, source water and the routine; or, with `limits`, the most that may move in a day. */
const props = defineProps<{ set: SetupModel; setup: Schemas['SetupAnswer']; limits?: boolean }>()
const form = props.set.form
const choices = (list: Schemas['Choice'][]) => list.map((one) => ({ title: one.name, value: one.key }))
const remark = (list: Schemas['Choice'][], key: string) => list.find((one) => one.key === key)?.remark
const ROUTINE = [
  ['change_percent', 'Routine change', '%', 'change_fraction'],
  ['change_every_days', 'Every', 'days', 'change_every_days'],
  ['largest_percent', 'Largest change', '%', 'largest_fraction'],
  ['bucket_l', 'One bucket', 'L', 'bucket_l'],
] as const
const LIMITS = [
  ['limit_salinity', 'Salinity, most in a day', props.setup.units.salinity, 'limit_salinity'],
  ['limit_alkalinity', 'Alkalinity, most in a day', props.setup.units.alkalinity, 'limit_alkalinity'],
  ['limit_temperature', 'Temperature, most in a day', props.setup.units.temperature, 'limit_temperature'],
] as const
</script>

<template>
  <div class="fields">
    <template v-if="!limits">
      <div>
        <v-select v-model="form.sand" :items="choices(setup.sand)" label="Sand" />
        <p class="note">{{ remark(setup.sand, form.sand) }}</p>
      </div>
      <div>
        <v-select v-model="form.source_water" :items="choices(setup.source_water)" label="Source water" />
        <p class="note">{{ remark(setup.source_water, form.source_water) }}</p>
      </div>
    </template>
    <FieldText
      v-for="[key, label, unit, field] in limits ? LIMITS : ROUTINE"
      :key="key"
      v-model="form.numbers[key]!"
      :label="label"
      :unit="unit"
      :error="set.wrong(field) ?? set.wrong(key)"
    />
    <FieldText v-if="!limits" v-model="form.method_note" label="In your words" type="text" class="wide" />
    <p v-else class="note wide">
      For everything together: doses, changes and top-offs share one allowance. An animal with a tighter limit
      takes precedence, and plans name it.
    </p>
  </div>
</template>
