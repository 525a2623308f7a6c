<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'

const props = defineProps<{
  task: Schemas['Task']
  system: number
  name: string
  care: Care
  wide?: boolean
}>()
const open = ref(false)
const day = ref(props.task.day)
/** A refill follows from what is in its container: it is done there. */
const refill = props.task.task === 'container_refill'
const planned = props.task.step_id !== null && props.task.task === 'water_change'

const spoken = computed(() => {
  const late = props.task.late_days ? `, ${props.task.late_days} d late` : ''
  return `${props.name}: ${props.task.name}${late}, ${props.task.minutes} minutes`
})
function act(what: () => unknown) {
  open.value = false
  void what()
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false" location="bottom">
    <template #activator="{ props: opener }">
      <button
        v-bind="opener"
        type="button"
        class="task"
        :class="{ late: task.late_days, planned: task.step_id, wide }"
        :aria-label="wide ? undefined : spoken"
      >
        <span v-if="wide" class="soft">{{ name }}</span> {{ task.name }}
        <i v-if="task.late_days" class="magenta">{{ task.late_days }} d late</i>
        <span v-if="wide" class="soft end">{{ task.minutes }} min</span>
      </button>
    </template>
    <v-card class="menu" :aria-label="task.name" role="dialog">
      <h2>{{ task.name }}, {{ name }}</h2>
      <p class="soft">{{ task.minutes }} min · {{ task.why }}</p>
      <p v-if="task.about">{{ task.about }}</p>
      <p v-if="task.tool">{{ task.tool }}</p>
      <div class="ways">
        <v-btn v-if="planned" variant="flat" size="small" @click="act(() => care.start(task.step_id!))"
          >Start at the tank</v-btn
        >
        <v-btn
          v-else-if="refill"
          variant="flat"
          size="small"
          @click="act(() => care.go('containers', system))"
          >To the container</v-btn
        >
        <template v-else>
          <v-btn variant="flat" size="small" @click="act(() => care.done(system, task))">Done</v-btn>
          <v-btn
            v-if="task.task === 'water_change'"
            size="small"
            @click="act(() => care.go('change', system))"
            >Plan it</v-btn
          >
        </template>
        <v-btn v-if="!refill" size="small" @click="act(() => care.askSkip(system, task))">Skip</v-btn>
      </div>
      <form v-if="!refill" class="move" @submit.prevent="act(() => care.move(system, task, day, task.day))">
        <label>Move to <input v-model="day" type="date" /> </label>
        <button class="plain-link" type="submit">move</button>
      </form>
    </v-card>
  </v-menu>
</template>

<style scoped>
.task {
  display: block;
  width: 100%;
  text-align: left;
  font-size: 0.78rem;
  line-height: 1.15;
  padding: 4px 5px;
  margin-bottom: 3px;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--soft);
  border-radius: 3px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.task.planned {
  background: var(--shallow);
  border-color: var(--ink);
}
.task.late {
  border-color: var(--magenta);
}
.task.wide {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 1rem;
  min-height: 46px;
  padding: 8px 10px;
}
.end {
  margin-left: auto;
  font-size: 0.875rem;
}
.menu {
  padding: 14px 16px;
  max-width: 340px;
  display: grid;
  gap: 8px;
}
.ways {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.move {
  display: flex;
  gap: 12px;
  align-items: baseline;
  font-size: 0.9rem;
}
.move input {
  border: 0;
  border-bottom: 1px dotted var(--ink);
  color: var(--ink);
  font: inherit;
}
</style>
