<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'
import InstrumentRow from './InstrumentRow.vue'
import { useInstruments } from './useInstruments'

/** Instruments with their scatter, checks and reagents, and a new one. */
const props = defineProps<{ data: Schemas['Instruments'] }>()
const acts = useInstruments()
const fresh = reactive({ name: '', parameter: 'alkalinity', scatter: '', drop: '' })
const measured = computed(() => props.data.parameters.find((one) => one.key === fresh.parameter))
const kinds = computed(() => props.data.parameters.map((one) => ({ title: one.name, value: one.key })))
const wrong = (field: string) => acts.wrong('new', field)
async function add() {
  const body = {
    name: fresh.name,
    parameter: fresh.parameter as Schemas['InstrumentBody']['parameter'],
    scatter: (fresh.scatter.trim() ? typed(fresh.scatter) : measured.value?.scatter) as number,
    per_count: (fresh.drop.trim() ? typed(fresh.drop) : 0) as number,
  }
  if (await acts.add(body)) Object.assign(fresh, { name: '', scatter: '', drop: '' })
}
</script>

<template>
  <p v-if="!data.instruments.length" class="note">
    None yet. Readings without an instrument get a typical error, and a change of instrument goes unnoticed.
  </p>
  <ul>
    <InstrumentRow
      v-for="one in data.instruments"
      :key="`${one.name}-${one.parameter}`"
      :one="one"
      :acts="acts"
    />
  </ul>
  <form novalidate class="fields" @submit.prevent="add">
    <FieldText v-model="fresh.name" label="Another instrument" type="text" :error="wrong('name')" />
    <v-select v-model="fresh.parameter" :items="kinds" label="It measures" />
    <FieldText
      v-model="fresh.scatter"
      :label="`Scatter (${measured?.scatter ?? ''} if empty)`"
      :unit="measured?.unit"
      :error="wrong('scatter')"
    />
    <FieldText
      v-model="fresh.drop"
      label="One drop is worth, if it counts"
      :unit="measured?.unit"
      :error="wrong('per_count')"
    />
    <v-btn type="submit" size="small">Add to the Shelf</v-btn>
  </form>
</template>
