<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import DayHead from './DayHead.vue'
import RotaTask from './RotaTask.vue'

/** The same by days, where there is no room for lanes. */
const props = defineProps<{ rota: Schemas['Rota']; care: Care }>()
const today = computed(() => props.rota.days[0]?.day)
const busy = computed(() =>
  props.rota.days
    .map((day) => ({
      ...day,
      lanes: props.rota.lanes
        .map((lane) => ({ ...lane, tasks: lane.tasks.filter((task) => task.day === day.day) }))
        .filter((lane) => lane.tasks.length),
    }))
    .filter((day) => day.lanes.length),
)
</script>

<template>
  <div class="list" :inert="care.isAsking()">
    <section v-for="day in busy" :key="day.day" class="card">
      <DayHead :day="day" :today="day.day === today" />
      <template v-for="lane in day.lanes" :key="lane.system_id">
        <h3>{{ lane.name }}</h3>
        <RotaTask
          v-for="task in lane.tasks"
          :key="task.task + task.due + task.step_id"
          :task="task"
          :system="lane.system_id"
          :name="lane.name"
          :rota="rota"
          :care="care"
          wide
        />
      </template>
    </section>
  </div>
</template>

<style scoped>
.list {
  display: none;
}
h3 {
  font-size: 0.9rem;
  color: var(--soft);
  margin: 8px 0 2px;
}
@media (max-width: 1000px) {
  .list {
    display: grid;
    gap: 12px;
  }
  .list section {
    padding: 10px 12px;
  }
}
/* On paper: two columns of days, a box to tick before each task. */
@media print {
  .list {
    display: block;
    columns: 2;
    column-gap: 14px;
  }
  .list section {
    margin-bottom: 6px;
    padding: 4px 8px;
  }
  h3 {
    margin: 2px 0 0;
  }
}
</style>
