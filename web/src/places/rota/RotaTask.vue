<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import TaskCard from './TaskCard.vue'

/** What is dragged is the button itself. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  task: Schemas['Task']
  system: number
  name: string
  rota: Schemas['Rota']
  care: Care
  wide?: boolean
}>()
const key = computed(
  () =>
    `${props.wide ? 'list' : 'grid'} ${props.system} ${props.task.task} ${props.task.due} ${props.task.step_id}`,
)
const open = computed({
  get: () => props.care.isOpen(key.value),
  set: (on) => props.care.setOpen(key.value, on),
})
/** While a form is open in the card, a press beside it closes the card and does nothing else. */
const part = ref('')
watch(open, () => (part.value = ''))
watch(part, (form) => props.care.setAsking(!!form))
onBeforeUnmount(() => part.value && props.care.setAsking(false))
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" location="bottom">
    <template #activator="{ props: opener }">
      <button
        v-bind="{ ...opener, ...$attrs }"
        type="button"
        class="task"
        :class="{ late: task.late_days, planned: task.step_id, fixed: task.fixed, wide }"
        :draggable="!wide"
      >
        <span class="name"
          ><span v-if="!wide" class="visually-hidden">{{ name }}: </span>{{ task.name
          }}<template v-if="wide && task.zone">, {{ task.zone }}</template></span
        >
        <i v-if="task.late_days" class="magenta">{{ task.late_days }} d late</i>
        <span class="soft end"
          >{{ task.minutes }}<span :class="{ 'visually-hidden': !wide }"> min</span></span
        >
      </button>
    </template>
    <TaskCard
      v-if="open"
      v-model:part="part"
      :task="task"
      :system="system"
      :name="name"
      :rota="rota"
      :care="care"
      @close="open = false"
    />
  </v-menu>
</template>

<style scoped>
.task {
  display: flex;
  gap: 4px;
  width: 100%;
  min-height: 24px;
  align-items: center;
  text-align: left;
  font-size: 0.8rem;
  line-height: 1.18;
  padding: 3px 4px;
  background: none;
  color: var(--ink);
  border: 0;
  border-left: 3px solid var(--sand);
  margin-bottom: 2px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.task:hover {
  background: var(--card);
}
.task.planned {
  border-left-color: var(--ink);
  background: var(--shallow);
}
.task.fixed {
  border-left-style: double;
  border-left-width: 5px;
  border-left-color: var(--ink);
}
.task.late {
  border-left-color: var(--magenta);
}
.task.wide {
  gap: 8px;
  align-items: center;
  font-size: 1rem;
  min-height: 46px;
  padding: 8px 10px;
}
@media print {
  .task.wide {
    min-height: 0;
    padding: 1px 4px;
    border: 0;
    font-size: 0.9rem;
    break-inside: avoid;
  }
  .task.wide::before {
    content: '';
    flex: none;
    width: 10px;
    height: 10px;
    border: 1px solid var(--ink);
  }
}
.end {
  margin-left: auto;
  white-space: nowrap;
}
</style>
