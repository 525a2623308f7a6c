<script setup lang="ts">
import { computed } from 'vue'
import type { ProblemError, Schemas } from '../../api/client'
import CautionNote from '../../parts/CautionNote.vue'
import GateForm from './GateForm.vue'
import LitresCount from './LitresCount.vue'
import TickList from './TickList.vue'
import type { Say } from './useRun'

const props = defineProps<{ step: Schemas['CurrentStep']; refused?: ProblemError; busy: boolean }>()
const emit = defineEmits<{ say: [what: Say] }>()

const words: Record<string, string> = {
  confirm: 'Done',
  gate: 'It matches: go on',
  off: 'All off: go on',
  drain: 'Drained: go on',
  refill: 'Refilled: go on',
  on: 'All on: go on',
}
const left = computed(() => props.step.items.filter((item) => !item.ticked).length)
const counting = computed(() => props.step.kind === 'drain' || props.step.kind === 'refill')
const ready = computed(() => {
  if (props.step.kind === 'gate') return props.step.gate.every((line) => line.met)
  if (counting.value) return (props.step.litres?.total ?? 0) >= (props.step.litres?.target ?? 0) - 0.05
  return props.step.kind === 'confirm' || !left.value
})
</script>

<template>
  <p class="text">{{ step.text }}</p>
  <CautionNote v-if="step.caution" :caution="step.caution" class="my-3" />
  <GateForm
    v-if="step.kind === 'gate'"
    :lines="step.gate"
    :refused="refused"
    :busy="busy"
    @say="emit('say', $event)"
  />
  <LitresCount
    v-if="counting && step.litres"
    :litres="step.litres"
    :draining="step.kind === 'drain'"
    :refused="refused"
    :busy="busy"
    @say="emit('say', $event)"
  />
  <TickList v-if="step.items.length" :items="step.items" @say="emit('say', $event)" />
  <div v-if="refused && refused.problem.missing.length" class="missing" role="alert">
    <b class="magenta">{{ refused.message }}</b>
    <ul>
      <li v-for="line in refused.problem.missing" :key="line">{{ line }}</li>
    </ul>
  </div>
  <v-btn
    block
    size="x-large"
    class="go"
    :variant="ready ? 'flat' : 'outlined'"
    :loading="busy"
    @click="emit('say', { kind: 'done' })"
  >
    {{ words[step.kind] }}
  </v-btn>
</template>

<style scoped>
.text {
  font-size: 1.1rem;
  margin: 6px 0 10px;
}
.missing {
  margin: 12px 0;
}
.missing ul {
  padding-left: 20px;
}
.go {
  margin-top: 16px;
  min-height: 64px;
}
</style>
