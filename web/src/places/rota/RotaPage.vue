<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, command } from '../../api/client'
import { rotaQuery } from '../../api/queries'
import { useCare } from '../../parts/care'
import BrokenSystems from '../../parts/BrokenSystems.vue'
import CareDialogs from '../../parts/CareDialogs.vue'
import { useCommands } from '../../parts/useCommands'
import Waiting from '../../parts/Waiting.vue'
import CatchUp from './CatchUp.vue'
import DayList from './DayList.vue'
import RotaHead from './RotaHead.vue'
import WeekGrid from './WeekGrid.vue'

const weeks = ref(2)
const { data, error, refetch } = useQuery(() => rotaQuery(weeks.value * 7))
const care = useCare()
const commands = useCommands()
const spans = computed(() =>
  Array.from({ length: weeks.value }, (_, week) => data.value!.days.slice(week * 7, week * 7 + 7)),
)
const evenOut = () =>
  commands.runWith(
    () => command((header) => api.POST('/api/rota/rebalance', { params: { header } })),
    undefined,
  )
</script>

<template>
  <div class="page">
    <RotaHead side="all systems; open a task for its reason, to do it, move it or skip it" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else-if="!data.lanes.length && !data.broken.length" class="card empty">
      Nothing on the rota yet. <router-link :to="{ name: 'start' }">Start with your tank</router-link> first.
    </div>
    <template v-else>
      <BrokenSystems :systems="data.broken" />
      <CatchUp v-if="data.catch_up.length" :groups="data.catch_up" />
      <ul v-if="data.shorts.length" class="shorts" aria-label="What does not fit">
        <li v-for="short in data.shorts" :key="short.day + short.words">
          <b class="magenta">{{ short.words }}.</b> <span class="soft">{{ short.helps }}</span>
        </li>
      </ul>
      <div class="tools no-print">
        <label>
          Show
          <select v-model.number="weeks" class="inline" aria-label="Weeks shown">
            <option v-for="count in [1, 2, 4, 6]" :key="count" :value="count">
              {{ count }} {{ count === 1 ? 'week' : 'weeks' }}
            </option>
          </select>
        </label>
        <button class="plain-link" type="button" :disabled="commands.busy.value" @click="evenOut">
          balance the workload
        </button>
      </div>
      <WeekGrid v-for="span in spans" :key="span[0]!.day" :days="span" :rota="data" :care="care" />
      <DayList :rota="data" :care="care" />
    </template>
    <CareDialogs :care="care" />
  </div>
</template>

<style scoped>
.empty {
  padding: 20px;
}
.shorts {
  list-style: none;
  border-left: 4px solid var(--magenta);
  padding: 2px 12px;
  margin-bottom: 10px;
  font-size: 0.92rem;
}
.tools {
  display: flex;
  gap: 22px;
  align-items: baseline;
  margin-bottom: 8px;
  font-size: 0.92rem;
}
</style>
