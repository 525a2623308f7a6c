<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import type { Wish } from './useChange'

/** Where the new water comes from, in the line of the wish. */
const props = defineProps<{
  offer: Schemas['Offer']
  wish: Wish
  wrong: (field: string) => string | undefined
}>()
const wish = computed(() => props.wish)
const waters = computed(() =>
  props.offer.waters.filter(
    (one) =>
      (one.key !== 'stored' || props.offer.batches.length) &&
      (one.key !== 'system' || props.offer.systems.length),
  ),
)
function take(key: string) {
  wish.value.water = key as Wish['water']
  if (key === 'stored') wish.value.batch_id ??= Number(props.offer.batches[0]?.key)
  if (key === 'system') wish.value.source_id ??= Number(props.offer.systems[0]?.key)
  if (key === 'natural') wish.value.water_salinity ??= wish.value.salinity
}
const salt = computed(() => props.offer.salts.find((one) => one.id === wish.value.salt_id))
</script>

<template>
  <select
    :value="wish.water ?? 'mix'"
    aria-label="New water"
    :aria-invalid="!!wrong('water')"
    @change="take(($event.target as HTMLSelectElement).value)"
  >
    <option v-for="one in waters" :key="one.key" :value="one.key">{{ one.name }}</option></select
  ><template v-if="(wish.water ?? 'mix') === 'mix'">
    of
    <select v-model="wish.salt_id" aria-label="Salt">
      <option v-for="one in offer.salts" :key="one.id" :value="one.id">{{ one.name }}</option></select
    ><span v-if="salt" class="soft small"> ({{ salt.remark }})</span></template
  ><template v-else-if="wish.water === 'natural'">
    of salinity
    <input
      v-model.number="wish.water_salinity"
      type="number"
      step="any"
      aria-label="Salinity of the new water"
      :aria-invalid="!!wrong('water_salinity')"
    />
    {{ offer.salinity_unit }} and alkalinity
    <input
      v-model.number="wish.water_alkalinity"
      type="number"
      step="any"
      aria-label="Alkalinity of the new water"
      placeholder="usual"
      :aria-invalid="!!wrong('water_alkalinity')"
    />
    {{ offer.alkalinity_unit }}</template
  ><template v-else-if="wish.water === 'stored'"
    >:
    <select v-model="wish.batch_id" aria-label="Batch">
      <option v-for="one in offer.batches" :key="one.key" :value="Number(one.key)">
        {{ one.name }} ({{ one.remark }})
      </option>
    </select></template
  ><template v-else
    >:
    <select v-model="wish.source_id" aria-label="Other system">
      <option v-for="one in offer.systems" :key="one.key" :value="Number(one.key)">{{ one.name }}</option>
    </select></template
  >
</template>
