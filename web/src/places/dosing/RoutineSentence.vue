<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import MeasureInput from '../../parts/MeasureInput.vue'
import { typed } from '../../parts/numbers'
import type { useRoutine } from './useRoutine'

const props = defineProps<{ routine: ReturnType<typeof useRoutine>; offer: Schemas['DosingOffer'] }>()
/* The request is the planner's own reactive object; the sentence edits it in place. */
const request = computed(() => props.routine.request)
const raising = (parameter: Schemas['Parameter']) =>
  props.offer.additives.filter((one) => one.raises.includes(parameter))
const chosen = (event: Event) => {
  const value = (event.target as HTMLSelectElement).value
  return value ? Number(value) : null
}
const number = (event: Event) => {
  const text = (event.target as HTMLInputElement).value.trim()
  return text ? typed(text) : null
}
const FIELDS = ['uptake', 'lime_l', 'reservoir_l', 'effluent', 'flow_ml_min', 'alkalinity', 'calcium_id']
const PARTS = [
  'alkalinity.0.percent',
  'alkalinity.1.percent',
  'alkalinity.0.additive_id',
  'magnesium_id',
  'total',
]
const problems = computed(() => [...FIELDS, ...PARTS].map(props.routine.wrong).filter(Boolean))
const told = computed(() => props.offer.uptake[0]?.amount)
</script>

<template>
  <div class="card sentence">
    <p>
      Replace
      <input
        :value="request.uptake ?? ''"
        inputmode="decimal"
        class="narrow"
        :placeholder="told"
        aria-label="Alkalinity used a day; leave blank for the estimate"
        :aria-invalid="!!routine.wrong('uptake')"
        @input="request.uptake = number($event)"
      />
      {{ offer.unit }} a day <span v-if="request.uptake === null" class="soft small">(estimated)</span>,
      counting the
      <label class="tick"><input v-model="request.changes" type="checkbox" /> water changes</label>, limewater
      in
      <MeasureInput
        :model-value="request.lime_l"
        unit="L"
        label="Limewater a day"
        :wrong="!!routine.wrong('lime_l')"
        @update:model-value="request.lime_l = $event || 0"
      />
      of top-off a day<template v-if="request.lime_l">
        from a reservoir of
        <MeasureInput
          :model-value="request.reservoir_l"
          unit="L"
          label="Reservoir"
          @update:model-value="request.reservoir_l = $event || null" /></template
      >, <label class="tick"><input v-model="request.reactor" type="checkbox" /> a calcium reactor</label
      ><template v-if="request.reactor">
        with an effluent of
        <input
          :value="request.effluent ?? ''"
          inputmode="decimal"
          class="narrow"
          aria-label="Alkalinity of the effluent"
          :aria-invalid="!!routine.wrong('effluent')"
          @input="request.effluent = number($event)"
        />
        {{ offer.unit }} at
        <input
          :value="request.flow_ml_min ?? ''"
          inputmode="decimal"
          class="narrow"
          aria-label="Flow of the reactor in mL a minute"
          :aria-invalid="!!routine.wrong('flow_ml_min')"
          @input="request.flow_ml_min = number($event)"
        />
        mL/min</template
      >; the rest by
      <select
        :value="request.alkalinity?.[0]?.additive_id ?? ''"
        aria-label="Additive for alkalinity"
        @change="routine.part(0, chosen($event))"
      >
        <option value="">no dose</option>
        <option v-for="one in raising('alkalinity')" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <template v-if="request.alkalinity?.length">
        <template v-if="request.alkalinity.length > 1">
          (<input
            :value="request.alkalinity[0]!.percent"
            inputmode="decimal"
            class="narrow"
            aria-label="Share of the first in percent"
            @input="routine.share(number($event) ?? 0)"
          />
          %)
        </template>
        and
        <select
          :value="request.alkalinity[1]?.additive_id ?? ''"
          aria-label="Second additive for alkalinity"
          @change="routine.part(1, chosen($event))"
        >
          <option value="">no second</option>
          <option
            v-for="one in raising('alkalinity').filter(
              (each) => each.id !== request.alkalinity![0]!.additive_id,
            )"
            :key="one.id"
            :value="one.id"
          >
            {{ one.name }}
          </option>
        </select>
      </template>
      for alkalinity,
      <select v-model="request.calcium_id" aria-label="Additive for calcium">
        <option :value="null">no dose</option>
        <option v-for="one in raising('calcium')" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      for calcium and
      <select v-model="request.magnesium_id" aria-label="Additive for magnesium">
        <option :value="null">no dose</option>
        <option v-for="one in raising('magnesium')" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      for magnesium. What no container holds is given
      <select
        aria-label="How doses without a container are given"
        :value="request.by_hand ? 'hand' : 'itself'"
        @change="request.by_hand = ($event.target as HTMLSelectElement).value === 'hand'"
      >
        <option value="hand">by hand, ticked each day</option>
        <option value="itself">by a pump of its own</option></select
      >.
    </p>
    <p v-for="problem in problems" :key="problem" class="magenta small" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.narrow {
  width: 3em;
  text-align: center;
}
.tick {
  white-space: nowrap;
}
</style>
