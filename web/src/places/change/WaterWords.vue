<script setup lang="ts">
import { computed } from 'vue'
import type { RequestProps } from './requestProps'
import type { ChangeRequest } from './useChange'
import MeasureInput from '../../parts/MeasureInput.vue'

/** Where the new water comes from, in the line of the request. */
const props = defineProps<RequestProps>()
const request = computed(() => props.request)
const waters = computed(() =>
  props.offer.waters.filter(
    (one) =>
      (one.key !== 'stored' || props.offer.batches.length) &&
      (one.key !== 'system' || props.offer.systems.length),
  ),
)
function take(key: string) {
  request.value.water = key as ChangeRequest['water']
  if (key === 'stored') request.value.batch_id ??= Number(props.offer.batches[0]?.key)
  if (key === 'system') request.value.source_id ??= Number(props.offer.systems[0]?.key)
  if (key === 'natural') request.value.water_salinity ??= request.value.salinity
}
const salt = computed(() => props.offer.salts.find((one) => one.id === request.value.salt_id))
</script>

<template>
  <select
    :value="request.water ?? 'mix'"
    aria-label="New water"
    :aria-invalid="!!wrong('water')"
    @change="take(($event.target as HTMLSelectElement).value)"
  >
    <option v-for="one in waters" :key="one.key" :value="one.key">{{ one.name }}</option></select
  ><template v-if="(request.water ?? 'mix') === 'mix'">
    of
    <select v-model="request.salt_id" aria-label="Salt">
      <option v-for="one in offer.salts" :key="one.id" :value="one.id">{{ one.name }}</option></select
    ><span v-if="salt" class="soft small"> ({{ salt.remark }})</span></template
  ><template v-else-if="request.water === 'natural'">
    of salinity
    <MeasureInput
      v-model="request.water_salinity"
      label="Salinity of the new water"
      :wrong="!!wrong('water_salinity')"
      wide
    />
    {{ offer.salinity_unit }} and alkalinity
    <MeasureInput
      v-model="request.water_alkalinity"
      label="Alkalinity of the new water"
      placeholder="usual"
      :wrong="!!wrong('water_alkalinity')"
      wide
    />
    {{ offer.alkalinity_unit }}</template
  ><template v-else-if="request.water === 'stored'"
    >:
    <select v-model="request.batch_id" aria-label="Batch">
      <option v-for="one in offer.batches" :key="one.key" :value="Number(one.key)">
        {{ one.name }} ({{ one.remark }})
      </option>
    </select></template
  ><template v-else
    >:
    <select v-model="request.source_id" aria-label="Other system">
      <option v-for="one in offer.systems" :key="one.key" :value="Number(one.key)">{{ one.name }}</option>
    </select></template
  >
</template>
