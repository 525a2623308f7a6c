<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import MeasureInput from '../../parts/MeasureInput.vue'
import type { useMix } from './useMix'

const props = defineProps<{ mix: ReturnType<typeof useMix>; offer: Schemas['MixOffer'] }>()
/* The request is the planner's own reactive object; the sentence edits it in place. */
const request = computed(() => props.mix.request)
const salt = computed(() => props.offer.salts.find((one) => one.id === request.value.salt_id))
const fields = ['litres', 'container_l', 'heater_w', 'mixing_h', 'salt_id', 'salinity']
const problems = computed(() => fields.map(props.mix.wrong).filter(Boolean))
const MATCHED: [Schemas['Parameter'], string][] = [
  ['alkalinity', 'alkalinity'],
  ['calcium', 'calcium'],
  ['magnesium', 'magnesium'],
]
</script>

<template>
  <div class="card sentence">
    <p>
      Mix
      <select v-model="request.salt_id" aria-label="Salt">
        <option v-for="one in offer.salts" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <span v-if="salt" class="soft small"> ({{ salt.remark }})</span> in a container of
      <MeasureInput
        v-model="request.container_l"
        unit="L"
        label="Volume of the container"
        :wrong="!!mix.wrong('container_l') || !!mix.wrong('litres')"
      />
      with a heater of
      <MeasureInput
        v-model="request.heater_w"
        label="Heater in watts"
        :wrong="!!mix.wrong('heater_w')"
        wide
      />
      W, let it mix for
      <MeasureInput
        v-model="request.mixing_h"
        label="Mixing time in hours"
        :wrong="!!mix.wrong('mixing_h')"
      />
      h, and bring to the systems' own by doses:
      <label v-for="[key, name] in MATCHED" :key="key" class="tick">
        <input
          type="checkbox"
          :checked="request.match?.includes(key)"
          @change="mix.match(key, ($event.target as HTMLInputElement).checked)"
        />
        {{ name }}
      </label>
      , alkalinity by
      <select v-model="request.source" aria-label="Additive for alkalinity">
        <option v-for="one in offer.sources" :key="one.key" :value="one.key">{{ one.name }}</option></select
      >.
    </p>
    <p v-for="problem in problems" :key="problem" class="magenta small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.tick {
  white-space: nowrap;
  margin-left: 8px;
}
</style>
