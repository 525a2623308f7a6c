<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { typed } from '../../parts/numbers'
import WhenField from '../../parts/WhenField.vue'
import { useContainers } from './useContainers'

/** What is done with a container: one form at a time. A refill asks for the label of what is poured in. */
const props = defineProps<{
  system: number
  container: Schemas['ContainerShown']
  labels: Schemas['Choice'][]
}>()
const MOVES: Record<string, { name: string; field: string; keep: string; pump?: boolean }> = {
  level: { name: 'Read its level', field: 'Level, mL', keep: 'Save the level' },
  filled: { name: 'Refill', field: 'Filled up to, mL', keep: 'Filled' },
  set: { name: 'Set the amount', field: 'A day, mL', keep: 'Set it' },
  calibrated: { name: 'Calibrate', field: 'Caught, mL', keep: 'Save the flow', pump: true },
  tube: { name: 'New tube', field: '', keep: 'New tube fitted', pump: true },
}
const possible = computed(() => Object.keys(MOVES).filter((key) => props.container.pump || !MOVES[key]!.pump))
const move = ref('')
const [ml, before, seconds, label, when] = [ref(''), ref(''), ref('60'), ref(''), ref('')]
const containers = useContainers(props.system)
const said = (name: string) => containers.wrong(name)
const message = computed(() => containers.refused.value?.problem.detail)
const optional = (text: string) => (text.trim() ? typed(text) : null)

function open(key: string) {
  move.value = move.value === key ? '' : key
  containers.refused.value = undefined
  ml.value = key === 'filled' ? String(props.container.capacity_ml) : ''
}
async function keep() {
  const kept = await containers.happened(props.container.id, {
    kind: move.value as Schemas['ContainerKind'],
    ml: ml.value.trim() ? typed(ml.value) : 0,
    before_ml: move.value === 'filled' ? optional(before.value) : null,
    label_id: move.value === 'filled' && label.value ? Number(label.value) : null,
    seconds: move.value === 'calibrated' ? optional(seconds.value) : null,
    when: when.value,
  })
  if (kept) [move.value, ml.value, before.value, label.value, when.value] = ['', '', '', '', '']
}
</script>

<template>
  <div class="no-print">
    <div class="ways">
      <v-btn
        v-for="key in possible"
        :key="key"
        size="small"
        :variant="move === key ? 'flat' : 'outlined'"
        @click="open(key)"
        >{{ MOVES[key]!.name }}</v-btn
      >
    </div>
    <form v-if="move" class="form" @submit.prevent="keep">
      <template v-if="move === 'filled'">
        <label class="wide"
          >Read the label of what you pour:
          <select
            v-model="label"
            class="inline"
            aria-label="What the bottle says"
            :aria-invalid="!!said('label_id')"
          >
            <option value="">choose what it says…</option>
            <option v-for="one in labels" :key="one.key" :value="one.key">
              {{ one.name }} ({{ one.remark }})
            </option>
          </select>
        </label>
        <p v-if="said('label_id')" class="magenta wide" role="alert">{{ message ?? said('label_id') }}</p>
        <v-text-field
          v-model="before"
          label="Left in it before, mL (if read)"
          inputmode="decimal"
          density="compact"
          :error-messages="said('before_ml')"
        />
      </template>
      <v-text-field
        v-if="MOVES[move]!.field"
        v-model="ml"
        :label="MOVES[move]!.field"
        inputmode="decimal"
        density="compact"
        autofocus
        :error-messages="said('ml')"
      />
      <v-text-field
        v-if="move === 'calibrated'"
        v-model="seconds"
        label="In how many seconds"
        inputmode="decimal"
        density="compact"
        :error-messages="said('seconds')"
      />
      <WhenField v-model="when" :error="said('when')" />
      <v-btn type="submit" variant="flat" :loading="containers.busy.value">{{ MOVES[move]!.keep }}</v-btn>
    </form>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0 6px;
}
.form {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 8px 14px;
  align-items: start;
  margin: 8px 0;
}
.wide {
  grid-column: 1 / -1;
}
</style>
