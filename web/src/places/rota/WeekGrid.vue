<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import DayHead from './DayHead.vue'
import RotaTask from './RotaTask.vue'

/** A week: a lane for each system, a column for each day. What is dragged to another day stays there. */
const props = defineProps<{ days: Schemas['RotaDay'][]; rota: Schemas['Rota']; care: Care }>()
const dragged = ref<{ system: number; task: Schemas['Task'] }>()
const over = ref('')
const today = props.rota.days[0]?.day

const on = (lane: Schemas['Lane'], day: string) => lane.tasks.filter((task) => task.day === day)
const minutes = (tasks: Schemas['Task'][]) => tasks.reduce((sum, task) => sum + task.minutes, 0)
function drop(lane: Schemas['Lane'], day: string) {
  const moved = dragged.value
  over.value = ''
  dragged.value = undefined
  if (moved?.system !== lane.system_id || moved.task.day === day) return
  void props.care.move(moved.system, moved.task, day, moved.task.fixed ? moved.task.day : null)
}
const at = (lane: Schemas['Lane'], day: string) => `${lane.system_id} ${day}`
function drag(lane: Schemas['Lane'], day: string) {
  if (dragged.value?.system === lane.system_id) over.value = at(lane, day)
}
</script>

<template>
  <table class="grid" :inert="care.isAsking()">
    <caption class="visually-hidden">
      Care by system and day, from
      {{
        days[0]!.words
      }}
    </caption>
    <thead>
      <tr>
        <td />
        <th v-for="day in days" :key="day.day" scope="col" :class="{ now: day.day === today }">
          <DayHead :day="day" :today="day.day === today" />
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="lane in rota.lanes" :key="lane.system_id">
        <th scope="row">
          <router-link :to="{ name: 'tasks', params: { system: lane.system_id } }">{{
            lane.name
          }}</router-link>
        </th>
        <td
          v-for="day in days"
          :key="day.day"
          :class="{ now: day.day === today, over: over === at(lane, day.day), away: day.away }"
          @dragover.prevent="drag(lane, day.day)"
          @drop.prevent="drop(lane, day.day)"
        >
          <div v-if="on(lane, day.day).length > 1" class="round soft">
            round, {{ minutes(on(lane, day.day)) }} min
          </div>
          <RotaTask
            v-for="task in on(lane, day.day)"
            :key="task.task + task.due + task.step_id"
            :task="task"
            :system="lane.system_id"
            :name="lane.name"
            :rota="rota"
            :care="care"
            @dragstart="dragged = { system: lane.system_id, task }"
            @dragend="dragged = undefined"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.grid {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  margin-bottom: 18px;
}
.grid th,
.grid td {
  border: 1px solid var(--line);
  padding: 3px;
  vertical-align: top;
}
thead td {
  width: 78px;
}
thead th {
  font-weight: 400;
  background: var(--card);
  vertical-align: bottom;
}
tbody th {
  text-align: left;
  padding: 6px;
}
tbody td {
  height: 44px;
}
.now {
  box-shadow: inset 2px 0 var(--magenta);
}
.over {
  background: var(--shallow);
}
.away {
  background: repeating-linear-gradient(135deg, transparent 0 7px, var(--line) 7px 8px);
}
.round {
  font-size: 0.78rem;
  padding: 1px 4px 2px;
}
@media (max-width: 1000px) {
  .grid {
    display: none;
  }
}
</style>
