<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'
import NumberField from './NumberField.vue'

/** What warms and cools a tank; the loss is estimated, or learned from a logged cooling or the heaters' duty. */
const model = defineModel<Schemas['HeatingBody']>({ required: true })
const props = defineProps<{
  unit: string
  lids: Schemas['Choice'][]
  wrong: (field: string) => string | undefined
}>()
type Key = Exclude<keyof Schemas['HeatingBody'], 'heaters_w' | 'lid' | 'cutoff'>
const ROOM: [Key, string][] = [
  ['room', 'Room, usually'],
  ['cold', 'Room at its coldest'],
  ['hot', 'Room shut in a heatwave'],
]
const POWERS: [Key, string, string][] = [
  ['pumps_w', 'All pumps in the water', 'W'],
  ['lamps_w', 'Lamps', 'W'],
  ['lamp_h', 'Lamps, hours a day', 'h'],
  ['fan_l_day', 'A fan lets evaporate on top', 'L a day'],
  ['chiller_w', 'Chiller takes out', 'W'],
  ['battery_wh', 'Battery', 'Wh'],
  ['battery_w', 'Runs from the battery', 'W'],
  ['kwh_price', 'Price of a kWh', ''],
]
const LEARNED: [Key, string, string][] = [
  ['fish_g', 'All fish together', 'g'],
  ['duty_percent', 'Heaters are on, of the time', '%'],
  ['cooled_from', 'Cooled without heaters from', ''],
  ['cooled_to', 'to', ''],
  ['cooled_h', 'within', 'h'],
  ['cooled_room', 'in a room of', ''],
]
const degrees = (key: Key) =>
  ['cooled_from', 'cooled_to', 'cooled_room'].includes(key) ? props.unit : undefined
/** What is wrong with the heaters together, or with one of them. */
const wrongHeater = computed(() =>
  ['', ...(model.value.heaters_w ?? []).map((_, place) => `.${place}`)]
    .map((place) => props.wrong(`heating.heaters_w${place}`))
    .find((said) => said),
)
const heaters = ref((model.value.heaters_w ?? []).join(' + '))
const told = computed(() => (model.value.heaters_w ?? []).join(' + '))
function readHeaters(text: string) {
  heaters.value = text
  model.value.heaters_w = text
    .split(/[+;]|\band\b/)
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => typed(part) as unknown as number)
}
const learned = ref(LEARNED.some(([key]) => model.value[key] !== null && model.value[key] !== undefined))
</script>

<template>
  <fieldset class="card">
    <legend>Heat and power</legend>
    <div class="fields">
      <FieldText
        :model-value="told === heaters ? told : heaters"
        label="Heaters, each"
        unit="W"
        hint="such as 100 + 100"
        :error="wrongHeater"
        @update:model-value="readHeaters"
      />
      <v-select v-model="model.lid" :items="lids" item-title="name" item-value="key" label="On the display" />
      <NumberField
        v-for="[key, name] in ROOM"
        :key="key"
        v-model="model[key]"
        :label="name"
        :unit="unit"
        :error="wrong(`heating.${key}`)"
      />
      <NumberField
        v-for="[key, name, one] in POWERS"
        :key="key"
        v-model="model[key]"
        :label="name"
        :unit="one || undefined"
        zero
        :error="wrong(`heating.${key}`)"
      />
    </div>
    <label class="tick"
      ><input v-model="model.cutoff" type="checkbox" /> A controller cuts a heater that sticks on</label
    >
    <button type="button" class="plain-link" :aria-expanded="learned" @click="learned = !learned">
      What you measured yourself
    </button>
    <div v-if="learned" class="fields">
      <NumberField
        v-for="[key, name, one] in LEARNED"
        :key="key"
        v-model="model[key]"
        :label="name"
        :unit="one || degrees(key)"
        :error="wrong(`heating.${key}`)"
      />
    </div>
  </fieldset>
</template>
