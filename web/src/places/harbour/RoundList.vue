<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { rotaQuery } from '../../api/queries'
import { useCare } from '../../parts/care'
import CareDialogs from '../../parts/CareDialogs.vue'

/** The next day with work, across all systems: the round. */
const { data } = useQuery(() => rotaQuery(14))
const care = useCare()
const round = computed(() => {
  const day = data.value?.days.find((one) => one.minutes > 0)
  if (!day || !data.value) return undefined
  const tasks = data.value.lanes.flatMap((lane) =>
    lane.tasks.filter((task) => task.day === day.day).map((task) => ({ lane, task })),
  )
  return { day, tasks, today: day.day === data.value.days[0]?.day }
})
</script>

<template>
  <section v-if="round" class="card" aria-labelledby="round-title">
    <h2 id="round-title">
      {{ round.today ? 'Today’s round' : `The next round, ${round.day.words}` }}
      <span class="soft">{{ round.day.minutes }} min</span>
    </h2>
    <ul>
      <li v-for="{ lane, task } in round.tasks" :key="lane.system_id + task.task">
        <b>{{ lane.name }}</b>
        <span>{{ task.name }}</span>
        <span :class="task.late_days ? 'magenta' : 'soft'">
          {{ task.late_days ? `${task.late_days} d late, ` : '' }}{{ task.why }}
        </span>
        <span class="soft minutes">{{ task.minutes }} min</span>
        <v-btn
          v-if="task.step_id && task.task === 'water_change'"
          size="small"
          @click="care.start(task.step_id)"
          >Start at the tank</v-btn
        >
        <v-btn v-else-if="task.programme" size="small" @click="care.programme(lane.system_id, task.programme)"
          >Open it</v-btn
        >
        <v-btn v-else-if="task.told" size="small" @click="care.go('rota')">Say what was found</v-btn>
        <v-btn v-else size="small" @click="care.done(lane.system_id, task)">Done</v-btn>
        <button class="plain-link" type="button" @click="care.askSkip(lane.system_id, task)">skip</button>
      </li>
    </ul>
    <CareDialogs :care="care" />
  </section>
</template>

<style scoped>
section {
  margin-top: 14px;
  padding: 14px 16px;
}
ul {
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 90px 190px 1fr 60px max-content max-content;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
h2 {
  padding-bottom: 8px;
}
h2 span {
  font-weight: 400;
}
.minutes {
  text-align: right;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: 1fr max-content max-content;
  }
  li span {
    grid-column: 1;
  }
  .minutes {
    text-align: left;
  }
}
</style>
