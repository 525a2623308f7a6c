<script setup lang="ts">
import { clockOf, type Timers } from './useTimers'

/** All that runs beside the step in hand; what rings stands first, until it is heard. */
defineProps<{ timers: Timers; shown: string }>()
const emit = defineEmits<{ go: [step: string] }>()
</script>

<template>
  <div v-if="timers.ringing.value.length" class="ring" role="alert">
    <div>
      <b v-for="one in timers.ringing.value" :key="one.mark" class="magenta line">
        {{ 'reminder' in one ? one.reminder : `${one.title}: ${one.bound_min} min are over` }}
      </b>
    </div>
    <v-btn variant="flat" @click="timers.hush()">OK</v-btn>
  </div>
  <div class="row">
    <button
      v-for="timer in timers.timers.value.filter((each) => each.step !== shown)"
      :key="timer.mark"
      type="button"
      class="chip"
      :class="{ over: timer.over }"
      @click="emit('go', timer.step)"
    >
      {{ timer.title }} <b>{{ clockOf(timer.left) }}</b>
    </button>
  </div>
</template>

<style scoped>
.ring {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  border: 2px solid var(--magenta);
  border-radius: 4px;
  background: var(--card);
  padding: 10px 14px;
  margin-bottom: 10px;
}
.line {
  display: block;
  font-size: 1.1rem;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.chip {
  margin-bottom: 8px;
}
.over {
  border-color: var(--magenta);
}
</style>
