<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import type { Wish } from './useChange'

const props = defineProps<{
  offer: Schemas['Offer']
  wish: Wish
  wrong: (field: string) => string | undefined
}>()
/* The wish is the planner's own reactive object; the sentence edits it in place. */
const wish = computed(() => props.wish)
const target = (name: 'salinity' | 'alkalinity') => ({
  get: () => wish.value[name] ?? '',
  set: (value: string | number) => (wish.value[name] = value === '' ? null : Number(value)),
})
const salinity = computed(target('salinity'))
const alkalinity = computed(target('alkalinity'))
const fields = ['salinity', 'alkalinity', 'fraction_percent', 'every_days', 'start', 'emergency', 'salt_id']
const problems = computed(() => fields.map(props.wrong).filter(Boolean))
const salt = computed(() => props.offer.salts.find((one) => one.id === wish.value.salt_id))
</script>

<template>
  <div class="card sentence">
    <p>
      Bring salinity to
      <input
        v-model="salinity"
        type="number"
        step="any"
        aria-label="Target salinity"
        :aria-invalid="!!wrong('salinity')"
      />
      {{ offer.salinity_unit }} and alkalinity to
      <input
        v-model="alkalinity"
        type="number"
        step="any"
        aria-label="Target alkalinity"
        :aria-invalid="!!wrong('alkalinity')"
      />
      {{ offer.alkalinity_unit }} with
      <select v-model="wish.salt_id" aria-label="Salt">
        <option v-for="one in offer.salts" :key="one.id" :value="one.id">{{ one.name }}</option></select
      ><span v-if="salt" class="soft small"> ({{ salt.remark }})</span>, changing
      <input
        v-model.number="wish.fraction_percent"
        type="number"
        step="any"
        min="1"
        aria-label="Size in percent"
        :aria-invalid="!!wrong('fraction_percent')"
        class="narrow"
      />
      % on
      <input
        v-model="wish.start"
        type="date"
        aria-label="First day"
        :min="offer.today"
        :aria-invalid="!!wrong('start')"
      />
      and again every
      <input
        v-model.number="wish.every_days"
        type="number"
        min="1"
        aria-label="Days between changes"
        :aria-invalid="!!wrong('every_days')"
        class="narrow"
      />
      days if needed, alkalinity by
      <select v-model="wish.source" aria-label="Additive for alkalinity">
        <option v-for="one in offer.sources" :key="one.key" :value="one.key">{{ one.name }}</option></select
      ><template v-if="offer.can_siphon"
        >, the sand
        <select v-model="wish.siphon" aria-label="Sand">
          <option :value="true">siphoned</option>
          <option :value="false">left alone</option>
        </select></template
      ><template v-if="offer.needs_emergency"
        >, because
        <select v-model="wish.emergency" aria-label="Danger" :aria-invalid="!!wrong('emergency')">
          <option :value="null">no danger is named</option>
          <option v-for="one in offer.emergencies" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select></template
      >.
    </p>
    <p v-for="problem in problems" :key="problem" class="magenta small" role="alert">{{ problem }}</p>
  </div>
</template>
