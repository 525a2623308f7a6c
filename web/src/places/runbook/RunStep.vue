<script setup lang="ts">
import { computed } from 'vue'
import type { ProblemError } from '../../api/client'
import CautionNote from '../../parts/CautionNote.vue'
import { useEntry } from '../../parts/entry'
import TickList from '../../parts/TickList.vue'
import AirClock from './AirClock.vue'
import FindForm from './FindForm.vue'
import GateForm from './GateForm.vue'
import LitresCount from './LitresCount.vue'
import StepTimer from './StepTimer.vue'
import type { Say, Step } from './useRun'
import type { Timers } from './useTimers'

const props = defineProps<{
  run: number
  step: Step
  timers: Timers
  refused?: ProblemError
  busy: boolean
}>()
const emit = defineEmits<{ say: [what: Say] }>()
const entry = useEntry()
const timer = computed(() => props.timers.timers.value.find((one) => one.step === props.step.id))
const clock = computed(() => props.timers.clocks.value.find((one) => one.key === props.step.clock))
const ready = computed(() => props.step.ready || (timer.value?.over ?? false))
</script>

<template>
  <p class="text">{{ step.text }}</p>
  <CautionNote v-if="step.caution && !step.caution_known" :caution="step.caution" class="my-3" />
  <p v-else-if="step.caution" class="note">As before: {{ step.caution.title.toLowerCase() }}.</p>
  <StepTimer
    v-if="step.timer"
    :timer="step.timer"
    :left="timer?.left"
    :refused="refused"
    :busy="busy"
    @say="emit('say', $event)"
  />
  <v-btn v-if="step.entry" class="entry" variant="outlined" @click="entry.asked = step.entry"
    >Record “{{ step.entry }}”</v-btn
  >
  <p v-if="step.meanwhile" class="note">Meanwhile: {{ step.meanwhile }}</p>
  <GateForm
    v-if="step.gate.length"
    :name="`gate.${run}.${step.id}`"
    :lines="step.gate"
    :matching="step.kind === 'gate'"
    :refused="refused"
    :busy="busy"
    @say="emit('say', $event)"
  />
  <LitresCount
    v-if="step.litres"
    :litres="step.litres"
    :refused="refused"
    :busy="busy"
    @say="emit('say', $event)"
  />
  <FindForm
    v-if="step.finds.length"
    :key="step.id"
    :step="step"
    :refused="refused"
    @say="emit('say', $event)"
  />
  <AirClock v-if="clock" :clock="clock" @say="emit('say', $event)" />
  <TickList
    v-if="step.items.length"
    :items="step.items"
    @tick="(item, on) => emit('say', { kind: on ? 'tick' : 'untick', item })"
  />
  <div
    v-if="refused && (refused.problem.missing.length || refused.problem.status === 409)"
    class="missing"
    role="alert"
  >
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
    {{ step.done_words }}
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
