<script setup lang="ts">
import type { Schemas } from '../../api/client'
import NumberField from './NumberField.vue'

/** The top-off as it is built, and the chains that stop it. */
const model = defineModel<Schemas['TopOffBody']>({ required: true })
defineProps<{
  senses: Schemas['Choice'][]
  cutOffs: Schemas['Choice'][]
  wrong: (field: string) => string | undefined
}>()
const add = () => (model.value.stops = [...(model.value.stops ?? []), { senses: 'float', cut_off: 'pump' }])
const remove = (place: number) => (model.value.stops = model.value.stops?.filter((_, each) => each !== place))
</script>

<template>
  <fieldset class="card">
    <legend>Top-off</legend>
    <div class="fields">
      <NumberField
        v-model="model.reservoir_l"
        label="Reservoir, usable (0: by hand)"
        unit="L"
        zero
        :error="wrong('top_off.reservoir_l')"
      />
      <NumberField
        v-model="model.pump_l_h"
        label="Its pump delivers"
        unit="L/h"
        zero
        :error="wrong('top_off.pump_l_h')"
      />
      <NumberField
        v-model="model.refill_l"
        label="Runs in at a time (0: level held)"
        unit="L"
        zero
        :error="wrong('top_off.refill_l')"
      />
      <NumberField
        v-model="model.limit_min"
        label="Longest run (0: no limit)"
        unit="min"
        zero
        :error="wrong('top_off.limit_min')"
      />
      <NumberField
        v-model="model.line_l_h"
        label="Line that fills by itself (0: none)"
        unit="L/h"
        zero
        :error="wrong('top_off.line_l_h')"
      />
    </div>
    <label class="tick"
      ><input v-model="model.limewater" type="checkbox" /> The reservoir holds limewater (kalkwasser)</label
    >
    <h3>What stops it</h3>
    <p v-if="wrong('top_off.stops')" class="magenta" role="alert">{{ wrong('top_off.stops') }}</p>
    <div v-for="(stop, place) in model.stops" :key="place" class="stop">
      <v-select
        v-model="stop.senses"
        :items="senses"
        item-title="name"
        item-value="key"
        label="Notices"
        density="compact"
        hide-details
      />
      <v-select
        v-model="stop.cut_off"
        :items="cutOffs"
        item-title="name"
        item-value="key"
        label="Stops the water by"
        density="compact"
        hide-details
      />
      <v-btn variant="text" size="small" :aria-label="`Remove stop ${place + 1}`" @click="remove(place)"
        >Remove</v-btn
      >
    </div>
    <v-btn variant="outlined" size="small" @click="add">Add a stop</v-btn>
  </fieldset>
</template>

<style scoped>
.stop {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr) auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
h3 {
  font-size: 1rem;
  margin: 8px 0;
}
@media (max-width: 600px) {
  .stop {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
