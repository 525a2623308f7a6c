<script setup lang="ts">
import { reactive } from 'vue'
import { answer, api, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import RoutineStrip from './RoutineStrip.vue'
import MeasureInput from '../../parts/MeasureInput.vue'

/** Two routines side by side: what each makes of every parameter in three months, and what it takes. */
const props = defineProps<{ offer: Schemas['Offer']; percent: number }>()
const pair = reactive({
  first: { percent: props.percent, every_days: 7 },
  second: { percent: props.percent * 2, every_days: 14 },
})
const { result, problem } = usePreview(
  () => ({ first: { ...pair.first }, second: { ...pair.second } }),
  (body, signal) =>
    answer(
      api.POST('/api/systems/{system_id}/change/routines', {
        params: { path: { system_id: props.offer.system_id } },
        body,
        signal,
      }),
    ),
)
const SIDES = [
  ['first', 'A'],
  ['second', 'B'],
] as const
</script>

<template>
  <div class="sentence pair">
    <p v-for="[side, letter] in SIDES" :key="side">
      <b>{{ letter }}</b>
      <MeasureInput
        v-model="pair[side].percent"
        :label="`Routine ${letter}, percent`"
        :wrong="!!problem?.at(`${side}.percent`)"
      />
      % every
      <MeasureInput
        v-model="pair[side].every_days"
        :label="`Routine ${letter}, days`"
        :wrong="!!problem?.at(`${side}.every_days`)"
      />
      days<span v-if="result" class="soft small"> · {{ result.takes[side === 'first' ? 0 : 1] }}</span>
    </p>
  </div>
  <p v-if="problem" class="magenta" role="alert">
    {{ problem.problem.fields[0]?.message ?? problem.message }}
  </p>
  <div v-if="result" class="strips" :class="{ stale: problem }">
    <RoutineStrip v-for="row in result.rows" :key="row.parameter" :row="row" />
  </div>
  <p v-if="result?.note" class="note">{{ result.note }}</p>
</template>

<style scoped>
.pair {
  padding: 0 0 6px;
}
.strips {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 10px 18px;
}
.stale {
  opacity: 0.5;
}
</style>
