<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { instrumentsQuery } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'
import Waiting from '../../parts/Waiting.vue'
import InstrumentRow from './InstrumentRow.vue'
import { useInstruments } from './useInstruments'

const { data, error, refetch } = useQuery(instrumentsQuery)
const acts = useInstruments()
const fresh = reactive({ name: '', parameter: 'alkalinity', scatter: '', drop: '' })
const measured = computed(() => data.value?.parameters.find((one) => one.key === fresh.parameter))
const kinds = computed(() => data.value?.parameters.map((one) => ({ title: one.name, value: one.key })) ?? [])
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
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Shelf</h1>
        <span class="soft">instruments, their scatter and their checks against standards</span>
      </div>
      <section class="card">
        <h2>Instruments</h2>
        <p v-if="!data.instruments.length" class="note">
          None yet. Readings without one count with a common scatter, and a change of instrument goes
          unnoticed.
        </p>
        <ul>
          <InstrumentRow
            v-for="one in data.instruments"
            :key="`${one.name}-${one.parameter}`"
            :one="one"
            :acts="acts"
          />
        </ul>
      </section>
      <section class="card">
        <h2>Another instrument</h2>
        <form novalidate @submit.prevent="add">
          <FieldText v-model="fresh.name" label="Name" type="text" :error="wrong('name')" />
          <v-select v-model="fresh.parameter" :items="kinds" label="It measures" />
          <FieldText
            v-model="fresh.scatter"
            :label="`Scatter (${measured?.scatter ?? ''} if left empty)`"
            :unit="measured?.unit"
            :error="wrong('scatter')"
          />
          <FieldText
            v-model="fresh.drop"
            label="One drop is worth, if it counts drops"
            :unit="measured?.unit"
            :error="wrong('per_count')"
          />
          <v-btn type="submit" variant="flat">Put it on the shelf</v-btn>
        </form>
      </section>
    </template>
  </div>
</template>

<style scoped>
section {
  padding: 14px 18px;
  margin-bottom: 14px;
}
ul {
  list-style: none;
  padding: 0;
}
form {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 12px;
  margin-top: 10px;
  align-items: start;
}
form .v-btn {
  justify-self: start;
}
</style>
