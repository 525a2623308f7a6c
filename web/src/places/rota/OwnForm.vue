<script setup lang="ts">
import { reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { typed } from '../../parts/numbers'
import type { Upkeep } from '../../parts/useUpkeep'

/** A task of the keeper's own: name, how often, how long, and where it stands in a round. */
const props = defineProps<{ upkeep: Upkeep; phases: Schemas['Choice'][] }>()
const emit = defineEmits<{ done: [] }>()
const own = reactive({ name: '', every_days: '14', minutes: '5', note: '', phase: 'tools' })
const wrong = props.upkeep.wrong

async function add() {
  const kept = await props.upkeep.add({
    name: own.name,
    every_days: Math.round(typed(own.every_days)),
    minutes: typed(own.minutes),
    note: own.note,
    phase: own.phase as Schemas['RoundPart'],
  })
  if (kept) emit('done')
}
</script>

<template>
  <form class="own card" @submit.prevent="add">
    <h2>A task of your own</h2>
    <v-text-field v-model="own.name" label="Name" autofocus :error-messages="wrong('name')" />
    <v-text-field
      v-model="own.every_days"
      label="Every"
      suffix="days"
      inputmode="numeric"
      :error-messages="wrong('every_days')"
    />
    <v-text-field
      v-model="own.minutes"
      label="Takes"
      suffix="min"
      inputmode="decimal"
      :error-messages="wrong('minutes')"
    />
    <v-select v-model="own.phase" :items="phases" item-title="name" item-value="key" label="Done with" />
    <v-text-field v-model="own.note" label="How, or why" class="wide" maxlength="300" />
    <div class="wide ways">
      <v-btn type="submit" variant="flat" :loading="upkeep.busy.value">Add to the rota</v-btn>
      <v-btn type="button" @click="emit('done')">Cancel</v-btn>
    </div>
  </form>
</template>

<style scoped>
.own {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 10px 14px;
  padding: 14px 16px;
  margin-top: 14px;
  max-width: 980px;
}
h2,
.wide {
  grid-column: 1 / -1;
}
.ways {
  display: flex;
  gap: 10px;
}
</style>
