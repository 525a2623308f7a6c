<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ChemText from '../../parts/ChemText.vue'
import LineSample from './LineSample.vue'
import type { Draft } from './useWhatIf'

/** One way of keeping the water, as a sentence whose parts are edited in place. */
const draft = defineModel<Draft>({ required: true })
defineProps<{
  system: number
  letter: string
  place: number
  offer: Schemas['WhatIfOffer']
  wrong: Record<string, string>
  alone: boolean
}>()
defineEmits<{ remove: []; adopt: [] }>()
</script>

<template>
  <section class="card variant" :aria-label="`Plan ${letter}`">
    <div class="head">
      <h2><LineSample :place="place" /> {{ letter }}</h2>
      <input v-model="draft.name" class="name" :aria-label="`Name of plan ${letter}`" maxlength="60" />
    </div>
    <p>
      Change
      <input v-model="draft.percent" :aria-label="`${letter}: percent`" inputmode="decimal" class="number" />
      %
      <template v-if="draft.continuous">a day, by a pump pair</template>
      <template v-else>
        every
        <input
          v-model="draft.every_days"
          :aria-label="`${letter}: days between`"
          inputmode="numeric"
          class="number"
        />
        days
      </template>
      with
      <select v-model="draft.salt_id" :aria-label="`${letter}: salt`">
        <option v-for="salt in offer.salts" :key="salt.key" :value="Number(salt.key)">
          {{ salt.name }}
        </option></select
      >.
    </p>
    <p>
      Replace what is used by
      <select v-model="draft.dosing" :aria-label="`${letter}: dosing`">
        <option v-for="one in offer.dosings" :key="one.key" :value="one.key">{{ one.name }}</option>
      </select>
      <template v-if="draft.dosing === 'two_part' || draft.dosing === 'limewater'">
        for
        <input
          v-model="draft.alkalinity"
          :aria-label="`${letter}: alkalinity a day`"
          inputmode="decimal"
          class="number"
          placeholder="all"
        />
        {{ offer.alkalinity_unit }} a day</template
      >. Feed
      <input
        v-model="draft.food_percent"
        :aria-label="`${letter}: food`"
        inputmode="decimal"
        class="number"
      />
      % of now.
    </p>
    <p v-for="one in draft.correction ?? []" :key="one.formula" class="small">
      At the start {{ one.grams }} g <ChemText :text="one.formula" /> a day on {{ one.days }} days.
      <button class="plain-link" type="button" @click="draft.correction = []">leave it out</button>
    </p>
    <p v-if="draft.plan" class="small">
      And
      <router-link :to="{ name: 'remedy', params: { system, cause: draft.plan } }"
        >the proposed plan</router-link
      >
      from today on.
      <button class="plain-link" type="button" @click="draft.plan = ''">leave it out</button>
    </p>
    <p v-for="(words, field) in wrong" :key="field" class="magenta small" role="alert">{{ words }}</p>
    <p class="ways no-print">
      <label class="small"><input v-model="draft.continuous" type="checkbox" /> continuous</label>
      <button class="plain-link small" type="button" @click="$emit('adopt')">Use this plan</button>
      <button v-if="!alone" class="plain-link small" type="button" @click="$emit('remove')">remove</button>
    </p>
  </section>
</template>

<style scoped>
.variant {
  padding: 10px 14px;
}
.head {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
h2 {
  font-size: 1.05rem;
  white-space: nowrap;
}
p {
  margin: 6px 0;
  line-height: 1.9;
}
input:not([type='checkbox']),
select {
  border: 0;
  border-bottom: 1.5px solid var(--ink);
  background: none;
  color: var(--ink);
  font: inherit;
  padding: 1px 2px;
}
option {
  color: #14303d;
}
.number {
  width: 3.4em;
  text-align: center;
}
.name {
  flex: 1;
  min-width: 0;
  border-bottom-color: var(--line) !important;
  font-style: italic;
}
.ways {
  display: flex;
  gap: 16px;
  align-items: center;
}
.small {
  font-size: 0.85rem;
}
</style>
