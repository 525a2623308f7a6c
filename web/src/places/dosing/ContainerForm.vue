<script setup lang="ts">
import { reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { typed, written } from '../../parts/numbers'
import { useContainers } from './useContainers'

/** A new container: what it holds, how large it is, how well its level can be read, and its pump. */
const props = defineProps<{
  system: number
  additives: Schemas['Choice'][]
  /** The container that is edited; a new one where there is none. */
  known?: Schemas['ContainerShown']
}>()
const emit = defineEmits<{ done: [] }>()
const containers = useContainers(props.system)
const known = props.known
const form = reactive({
  name: known?.name ?? '',
  additive: String(known?.additive_id ?? props.additives[0]?.key ?? ''),
  capacity: written(known?.capacity_ml ?? 1000),
  sd: known ? written(known.level_sd_ml) : '',
  pump: known?.pump ?? '',
  set: known?.set_name ?? '',
  step: written(known?.step_ml ?? 0.1),
  filled: '',
})
const optional = (text: string) => (text.trim() ? typed(text) : null)
const nameOf = () => props.additives.find((one) => one.key === form.additive)?.name ?? ''

async function keep() {
  const body = {
    name: form.name.trim() || nameOf(),
    additive_id: Number(form.additive),
    capacity_ml: typed(form.capacity),
    level_sd_ml: optional(form.sd),
    pump: form.pump,
    set_name: form.set,
    step_ml: typed(form.step),
    least_ml: typed(form.step),
    filled_ml: optional(form.filled),
  }
  const kept = known ? containers.change(known.id, body) : containers.add(body)
  if (await kept) emit('done')
}
</script>

<template>
  <p v-if="!additives.length" class="my-3">
    There is no solution on the Shelf yet. A container holds one of known strength.
    <router-link :to="{ name: 'shelf' }">To the Shelf</router-link>
  </p>
  <form
    v-else
    class="card fields pa-4"
    :aria-label="known ? `Edit ${known.name}` : 'A new container'"
    @submit.prevent="keep"
  >
    <label class="wide"
      >It holds
      <select v-model="form.additive" class="inline" aria-label="What it holds" :disabled="!!known">
        <option v-for="one in additives" :key="one.key" :value="one.key">
          {{ one.name }} ({{ one.remark }})
        </option>
      </select>
    </label>
    <v-text-field
      v-model="form.name"
      label="Name"
      :placeholder="nameOf()"
      :error-messages="containers.wrong('name')"
    />
    <v-text-field
      v-model="form.capacity"
      label="Holds, mL"
      inputmode="decimal"
      :error-messages="containers.wrong('capacity_ml')"
    />
    <v-text-field
      v-if="!known"
      v-model="form.filled"
      label="Filled to now, mL"
      inputmode="decimal"
      :error-messages="containers.wrong('filled_ml')"
    />
    <v-text-field
      v-model="form.sd"
      label="Level read to within ±, mL"
      hint="by weighing: 2 or 3; by marks: half a mark"
      persistent-hint
      inputmode="decimal"
      :error-messages="containers.wrong('level_sd_ml')"
    />
    <v-text-field v-model="form.pump" label="Pump (empty: by hand)" />
    <v-text-field
      v-model="form.step"
      label="Least step of the pump, mL"
      inputmode="decimal"
      :error-messages="containers.wrong('step_ml')"
    />
    <v-text-field
      v-model="form.set"
      label="Part of the set"
      hint="parts of one set should fall alike"
      persistent-hint
    />
    <p v-if="containers.wrong('additive_id')" class="magenta wide" role="alert">
      {{ containers.wrong('additive_id') }}
    </p>
    <div class="wide ways">
      <v-btn type="submit" variant="flat" :loading="containers.busy.value">{{
        known ? 'Save' : 'Set up'
      }}</v-btn>
      <button class="plain-link" type="button" @click="emit('done')">not now</button>
    </div>
  </form>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 18px;
  align-items: baseline;
}
</style>
