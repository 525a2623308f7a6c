<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import DateField from '../../parts/DateField.vue'

/** Move to a day, change places with another task, or let the rota decide again. */
const props = defineProps<{ task: Schemas['Task']; system: number; rota: Schemas['Rota']; care: Care }>()
const emit = defineEmits<{ done: [] }>()
const day = ref(props.task.day)
const other = ref('')
const others = computed(() =>
  props.rota.lanes.flatMap((lane) =>
    lane.tasks
      .filter((task) => task.day !== props.task.day && task.phase)
      .map((task) => ({
        key: `${lane.system_id} ${task.task} ${task.due}`,
        system: lane.system_id,
        lane,
        task,
      })),
  ),
)
const words = (one: { lane: Schemas['Lane']; task: Schemas['Task'] }) =>
  `${props.rota.days.find((each) => each.day === one.task.day)?.words}: ${one.task.name}, ${one.lane.name}`
function act(what: () => unknown) {
  emit('done')
  void what()
}
const back = () => (props.task.fixed ? props.task.day : null)
const move = () => act(() => props.care.move(props.system, props.task, day.value, back()))
function swap() {
  const chosen = others.value.find((one) => one.key === other.value)
  if (chosen)
    act(() => props.care.swap(props.system, props.task, { system: chosen.system, item: chosen.task }))
}
</script>

<template>
  <div class="forms">
    <form @submit.prevent="move">
      <span>To <DateField v-model="day" inline ahead label="To" required /></span>
      <button class="plain-link" type="submit">move it there</button>
    </form>
    <form @submit.prevent="swap">
      <select v-model="other" class="inline" aria-label="Change places with">
        <option value="">change places with…</option>
        <option v-for="one in others" :key="one.key" :value="one.key">{{ words(one) }}</option>
      </select>
      <button class="plain-link" type="submit" :disabled="!other">swap</button>
    </form>
    <button
      v-if="task.fixed && task.step_id === null"
      class="plain-link"
      type="button"
      @click="act(() => care.move(system, task, null, task.day))"
    >
      {{ task.piece ? 'rejoin' : 'let the rota decide' }}
    </button>
  </div>
</template>

<style scoped>
.forms {
  display: grid;
  gap: 8px;
  justify-items: start;
  font-size: 0.92rem;
}
form {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
input {
  border: 0;
  border-bottom: 1px dotted var(--ink);
  color: var(--ink);
  font: inherit;
}
select {
  max-width: 280px;
}
</style>
