<script setup lang="ts">
import type { Say } from './useRun'
import { clockOf, type Timers } from './useTimers'

/** How long animals are out of the water, against what they bear. */
defineProps<{ clock: Timers['clocks']['value'][number] }>()
const emit = defineEmits<{ say: [what: Say] }>()
</script>

<template>
  <div class="air" :class="{ over: clock.over, runs: clock.since }">
    <div>
      <b>{{ clock.title }}</b>
      <div v-if="clock.since" class="time" role="timer">{{ clockOf(clock.stretch * 60) }}</div>
      <div class="soft">
        {{ clock.bound_min }} min at most at a time, for {{ clock.bound_for }}
        <template v-if="clock.minutes">· {{ clock.minutes.toFixed(0) }} min before</template>
      </div>
      <b v-if="clock.over" class="magenta" role="alert">Cover them now</b>
    </div>
    <v-btn
      size="large"
      @click="emit('say', { kind: clock.since ? 'clock_off' : 'clock_on', item: clock.key })"
      >{{ clock.since ? 'Covered again' : 'In the air now' }}</v-btn
    >
  </div>
  <p class="note">
    {{ clock.since ? `Stop it when ${clock.stops}.` : `Start it when ${clock.starts}.` }}
  </p>
</template>

<style scoped>
.air {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  padding: 10px 14px;
  margin-top: 12px;
}
.runs {
  border-color: var(--ink);
}
.over {
  border: 2px solid var(--magenta);
}
.time {
  font-size: 1.9rem;
  font-weight: 700;
  line-height: 1.1;
}
.soft {
  font-size: 0.85rem;
}
</style>
