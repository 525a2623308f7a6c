<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import DoneForm from './DoneForm.vue'
import MoveForm from './MoveForm.vue'
import SplitForm from './SplitForm.vue'

/** A task in full: why it is due, why it stands on this day, and what can be done with it. */
const props = defineProps<{
  task: Schemas['Task']
  system: number
  name: string
  rota: Schemas['Rota']
  care: Care
}>()
const emit = defineEmits<{ close: [] }>()
/** A refill follows from what is in its container: it is done there. */
const refill = props.task.task === 'container_refill'
const planned = props.task.step_id !== null && props.task.task === 'water_change'
/** A daily dose belongs to its day. */
const daily = props.task.gives.length > 0
/** The form that is open in it. */
const part = defineModel<string>('part', { default: '' })
function act(what: () => unknown) {
  emit('close')
  void what()
}
</script>

<template>
  <v-card class="card" :aria-label="task.name" role="dialog">
    <h2>
      {{ task.name }}<template v-if="task.zone">, {{ task.zone }}</template>
    </h2>
    <p class="soft">
      {{ name }} · {{ task.minutes }} min<template v-if="task.waits"
        >, {{ task.waits }} min left alone</template
      >
    </p>
    <dl>
      <dt>Why</dt>
      <dd>{{ task.why }}</dd>
      <template v-if="task.placed">
        <dt>Why that day</dt>
        <dd>{{ task.placed }}</dd>
      </template>
      <dt>Allowed days</dt>
      <dd>{{ task.window }}</dd>
    </dl>
    <p v-if="task.about">{{ task.about }}</p>
    <p v-if="task.tool">{{ task.tool }}</p>
    <div class="ways">
      <v-btn v-if="planned" variant="flat" size="small" @click="act(() => care.start(task.step_id!))"
        >Start at the tank</v-btn
      >
      <v-btn v-else-if="refill" variant="flat" size="small" @click="act(() => care.go('containers', system))"
        >To the container</v-btn
      >
      <v-btn
        v-else-if="task.programme"
        variant="flat"
        size="small"
        @click="act(() => care.programme(system, task.programme))"
        >Open it</v-btn
      >
      <template v-else>
        <v-btn
          v-if="task.runbook"
          variant="flat"
          size="small"
          @click="act(() => care.start({ system_id: system, runbook: task.runbook, task: task.task }))"
          >Step by step</v-btn
        >
        <v-btn
          v-if="!task.told"
          :variant="task.runbook ? 'outlined' : 'flat'"
          size="small"
          @click="act(() => care.done(system, task))"
          >Done</v-btn
        >
        <v-btn size="small" :aria-expanded="part === 'done'" @click="part = part === 'done' ? '' : 'done'"
          >Done, with notes</v-btn
        >
        <v-btn v-if="task.task === 'water_change'" size="small" @click="act(() => care.go('change', system))"
          >Plan it</v-btn
        >
      </template>
      <v-btn v-if="!refill" size="small" @click="act(() => care.askSkip(system, task))">Skip</v-btn>
      <v-btn
        v-if="!refill && !daily"
        size="small"
        :aria-expanded="part === 'move'"
        @click="part = part === 'move' ? '' : 'move'"
        >Move</v-btn
      >
      <v-btn
        v-if="!refill && !daily && task.step_id === null && !task.piece && task.minutes > 1"
        size="small"
        :aria-expanded="part === 'split'"
        @click="part = part === 'split' ? '' : 'split'"
        >Split</v-btn
      >
    </div>
    <DoneForm v-if="part === 'done'" :task="task" :system="system" :care="care" @done="emit('close')" />
    <SplitForm
      v-if="part === 'split'"
      :task="task"
      :system="system"
      :rota="rota"
      :care="care"
      @done="emit('close')"
    />
    <MoveForm
      v-if="part === 'move'"
      :task="task"
      :system="system"
      :rota="rota"
      :care="care"
      @done="emit('close')"
    />
    <p v-if="task.phase && !refill" class="small">
      <router-link :to="{ name: 'task', params: { system, task: task.task } }"
        >History, cautions, and how often</router-link
      >
    </p>
  </v-card>
</template>

<style scoped>
.card {
  padding: 14px 16px;
  max-width: 400px;
  display: grid;
  gap: 8px;
  font-size: 0.95rem;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 2px 12px;
}
dt {
  color: var(--soft);
}
.ways {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.small {
  font-size: 0.9rem;
}
</style>
