<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { rotaQuery } from '../../api/queries'
import { useCare } from '../../parts/care'
import SkipDialog from '../../parts/SkipDialog.vue'
import Waiting from '../../parts/Waiting.vue'
import RotaTask from './RotaTask.vue'

const days = ref(14)
const { data, error, refetch } = useQuery(() => rotaQuery(days.value))
const care = useCare()

const most = computed(() => Math.max(30, ...(data.value?.days.map((day) => day.minutes) ?? [])))
const today = computed(() => data.value?.days[0]?.day)
function on(lane: number, day: string) {
  return data.value!.lanes[lane]!.tasks.filter((task) => task.day === day)
}
const busy = computed(() =>
  (data.value?.days ?? [])
    .map((day) => ({
      ...day,
      tasks: data.value!.lanes.flatMap((lane) =>
        lane.tasks.filter((task) => task.day === day.day).map((task) => ({ lane, task })),
      ),
    }))
    .filter((day) => day.tasks.length),
)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Rota</h1>
        <span class="soft">two weeks of care in all systems; open a task to do, move or skip it</span>
      </div>
      <div v-if="!data.lanes.length" class="card empty">
        Nothing to keep up yet. <router-link :to="{ name: 'new-system' }">Set up a system</router-link> first.
      </div>
      <table v-else class="grid">
        <caption class="visually-hidden">
          Care by system and day
        </caption>
        <thead>
          <tr>
            <td />
            <th v-for="day in data.days" :key="day.day" scope="col" :class="{ now: day.day === today }">
              <span class="weekday">{{ day.words.slice(0, 3) }}</span>
              <span class="date">{{ day.words.slice(4) }}</span>
              <span class="minutes">
                <span class="level" :style="{ height: `${(day.minutes / most) * 28}px` }" />
                <span>{{ day.minutes ? `${day.minutes} min` : '–' }}</span>
              </span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(lane, index) in data.lanes" :key="lane.system_id">
            <th scope="row">
              <router-link :to="{ name: 'sheet', params: { system: lane.system_id } }">{{
                lane.name
              }}</router-link>
            </th>
            <td v-for="day in data.days" :key="day.day" :class="{ now: day.day === today }">
              <RotaTask
                v-for="task in on(index, day.day)"
                :key="task.task + task.due + task.step_id"
                :task="task"
                :system="lane.system_id"
                :name="lane.name"
                :care="care"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <div class="list">
        <section v-for="day in busy" :key="day.day" class="card">
          <h2>
            {{ day.words }} <span class="soft">{{ day.minutes }} min</span>
          </h2>
          <RotaTask
            v-for="entry in day.tasks"
            :key="entry.lane.system_id + entry.task.task"
            :task="entry.task"
            :system="entry.lane.system_id"
            :name="entry.lane.name"
            :care="care"
            wide
          />
        </section>
      </div>
    </template>
    <SkipDialog :care="care" />
  </div>
</template>

<style scoped>
.grid {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
.grid th,
.grid td {
  border: 1px solid var(--line);
  padding: 3px;
  vertical-align: top;
}
thead td {
  width: 84px;
}
thead th {
  font-weight: 400;
  background: var(--card);
  vertical-align: bottom;
}
.weekday {
  font-weight: 700;
}
.date {
  margin-left: 4px;
  font-size: 0.8rem;
  color: var(--soft);
  white-space: nowrap;
}
.minutes {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  align-items: center;
  height: 52px;
  font-size: 0.78rem;
  color: var(--soft);
}
.level {
  width: 22px;
  background: var(--deep);
  border-top: 1px solid var(--ink);
}
tbody th {
  text-align: left;
  padding: 8px 6px;
}
tbody td {
  height: 92px;
}
.now {
  box-shadow: inset 2px 0 var(--magenta);
}
.list {
  display: none;
}
.empty {
  padding: 20px;
}
@media (max-width: 1000px) {
  .grid {
    display: none;
  }
  .list {
    display: grid;
    gap: 12px;
  }
  .list section {
    padding: 10px 12px;
  }
}
</style>
