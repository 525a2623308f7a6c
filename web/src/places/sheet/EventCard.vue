<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import { dayWords, wall } from '../../parts/wall'
import type { CareMark, Try } from './useTry'
import DateField from '../../parts/DateField.vue'

/** One piece of work that was touched: what it does to the water, and the ways on. */
const props = defineProps<{
  mark: CareMark
  lane: string
  system: number
  plan: Try
  tried: Record<string, Schemas['TriedStrip']>
}>()
const emit = defineEmits<{ close: [] }>()
const day = ref('')
const own = computed(() => props.mark.at.slice(0, 10))
const effects = computed(() =>
  Object.values(props.tried).flatMap((strip) =>
    strip.parts.filter((part) => part.at.startsWith(day.value)).map((part) => part.words),
  ),
)
watch(
  () => props.mark,
  (mark) => {
    day.value = own.value
    props.plan.attempt({ moved: { mark, day: own.value } })
  },
  { immediate: true },
)
watch(day, (to) => {
  if (to) props.plan.attempt({ moved: { mark: props.mark, day: to } })
})
function close() {
  props.plan.leave()
  emit('close')
}
async function act(what: () => unknown) {
  await what()
  close()
}
</script>

<template>
  <section class="card event no-print" aria-label="The work that was touched" @keydown.escape="close">
    <div class="head">
      <h2>{{ lane }}, {{ dayWords(wall(mark.at)) }}</h2>
      <button class="plain-link" type="button" @click="close">close</button>
    </div>
    <p class="soft">{{ mark.words }}</p>
    <p v-if="effects.length" aria-live="polite">
      What it does: <b>{{ effects.join(' · ') }}</b>
    </p>
    <div class="ways">
      <v-btn
        v-if="mark.task === 'water_change' && mark.step_id"
        variant="flat"
        size="small"
        @click="act(() => plan.care.start(mark.step_id!))"
        >Start at the tank</v-btn
      >
      <v-btn
        v-else-if="mark.task === 'water_change'"
        variant="flat"
        size="small"
        @click="plan.care.go('change', system)"
        >Plan it</v-btn
      >
      <v-btn
        v-if="!(mark.task === 'water_change' && mark.step_id)"
        size="small"
        @click="act(() => plan.care.done(system, mark))"
        >Done</v-btn
      >
      <form @submit.prevent="act(() => plan.move(mark, day))">
        <span>On <DateField v-model="day" inline ahead :label="`Day of ${lane}`" /></span>
        <v-btn v-if="day && day !== own" type="submit" size="small">Move</v-btn>
      </form>
      <button class="plain-link" type="button" @click="act(() => plan.takeOff(mark))">
        {{ mark.step_id ? 'remove' : 'skip' }}
      </button>
    </div>
  </section>
</template>

<style scoped>
.event {
  padding: 10px 14px;
  margin-top: 8px;
}
.head {
  display: flex;
  justify-content: space-between;
}
h2 {
  font-size: 1rem;
}
p {
  font-size: 0.9rem;
  margin: 4px 0;
}
.ways,
form {
  display: flex;
  align-items: center;
  gap: 12px;
  flex-wrap: wrap;
}
input {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 4px 8px;
  color: var(--ink);
  background: var(--card);
}
</style>
