<script setup lang="ts">
import type { Schemas } from '../../api/client'
import NumberField from './NumberField.vue'

/** The levels of display and sump, typed. */
const model = defineModel<Schemas['LevelsBody']>({ required: true })
defineProps<{ drawing?: Schemas['DrawingShown']; wrong: (field: string) => string | undefined }>()
type Key =
  | 'sump_length_cm'
  | 'sump_width_cm'
  | 'sump_depth_cm'
  | 'freeboard_cm'
  | 'fall_cm'
  | 'outlet_cm'
  | 'break_cm'
  | 'rim_cm'
  | 'chamber_cm'
  | 'pump_cm'
  | 'return_l_h'
const DISPLAY: [Key, string, string][] = [['freeboard_cm', 'Rim of the display above the water', 'cm']]
const SUMP: [Key, string, string][] = [
  ['sump_length_cm', 'Sump, inside length', 'cm'],
  ['sump_width_cm', 'Sump, inside width', 'cm'],
  ['sump_depth_cm', 'Sump, running level', 'cm'],
]
const RETURN: [Key, string, string][] = [
  ['fall_cm', 'Display falls when the return stops by', 'cm'],
  ['outlet_cm', 'Return’s outlet below the water', 'cm'],
  ['break_cm', 'Siphon break below the water (none: empty)', 'cm'],
  ['rim_cm', 'Sump’s rim above its floor', 'cm'],
  ['chamber_cm', 'Length of the return chamber', 'cm'],
  ['pump_cm', 'Pump draws air below', 'cm'],
  ['return_l_h', 'Return pump delivers', 'L/h'],
]
</script>

<template>
  <fieldset class="card">
    <legend>Levels</legend>
    <div class="fields">
      <NumberField
        v-for="[key, name, unit] in drawing?.return_pump
          ? [...DISPLAY, ...(drawing.sump_typed ? SUMP : []), ...RETURN]
          : DISPLAY"
        :key="key"
        v-model="model[key]"
        :label="name"
        :unit="unit"
        :error="wrong(`levels.${key}`)"
      />
      <NumberField
        v-model="model.cup_l"
        label="Skimmer’s cup or can holds"
        unit="L"
        zero
        :error="wrong('levels.cup_l')"
      />
    </div>
    <label v-if="drawing?.return_pump" class="tick"
      ><input v-model="model.second_drain" type="checkbox" /> A second drain carries everything when the
      overflow is blocked</label
    >
  </fieldset>
</template>
