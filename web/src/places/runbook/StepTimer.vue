<script setup lang="ts">
import { computed, ref } from 'vue'
import type { ProblemError, Schemas } from '../../api/client'
import ReasonForm from './ReasonForm.vue'
import type { Say } from './useRun'
import { clockOf } from './useTimers'

/** The timer of a step: started by hand, counted down by the server's clock; a step that waits can be passed with a reason. */
const props = defineProps<{
  timer: Schemas['Timer']
  left?: number
  refused?: ProblemError
  busy: boolean
}>()
const emit = defineEmits<{ say: [what: Say] }>()
const passing = ref(false)
const started = computed(() => props.left !== undefined)
const over = computed(() => (props.left ?? 1) <= 0)
</script>

<template>
  <div class="timer" :class="{ over }">
    <template v-if="started">
      <b class="clock" role="timer">{{ clockOf(left!) }}</b>
      <span class="soft">{{ over ? timer.reminder : `until: ${timer.reminder.toLowerCase()}` }}</span>
    </template>
    <v-btn v-else size="large" block variant="flat" :loading="busy" @click="emit('say', { kind: 'timer' })">
      Start {{ timer.minutes }} min
    </v-btn>
    <v-btn v-if="over" size="small" @click="emit('say', { kind: 'timer' })">once more</v-btn>
  </div>
  <template v-if="timer.waits && !over">
    <button v-if="!passing" class="plain-link" type="button" @click="passing = true">
      continue before it rings
    </button>
    <ReasonForm
      v-else
      label="Why it need not wait"
      :refused="refused"
      :busy="busy"
      @keep="emit('say', { kind: 'override', text: $event })"
    />
  </template>
</template>

<style scoped>
.timer {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
  margin: 10px 0;
}
.clock {
  font-size: 3.4rem;
  line-height: 1.05;
}
.over .clock {
  color: var(--magenta);
}
</style>
