<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../../api/client'
import { upkeepQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import OwnForm from './OwnForm.vue'
import RotaHead from './RotaHead.vue'
import { useUpkeep } from '../../parts/useUpkeep'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => upkeepQuery(id))
const upkeep = useUpkeep(id)
const adding = ref(false)
const groups = computed(() =>
  (data.value?.phases ?? [])
    .map((phase) => ({ ...phase, rows: data.value!.rows.filter((row) => row.phase === phase.key) }))
    .filter((group) => group.rows.length),
)
const turn = (row: Schemas['CareRow']) => upkeep.turn(row.task, row.on)
</script>

<template>
  <div class="page">
    <RotaHead :side="data ? `the tasks of ${data.system}` : 'the tasks of a system'" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <p class="note mb-2">
        Tasks that suit this system's sand, panels, gear and method. Untick what you do not want on the rota.
      </p>
      <table class="tasks">
        <thead>
          <tr class="soft">
            <th scope="col">On the rota</th>
            <th scope="col">Task</th>
            <th scope="col">How often</th>
            <th scope="col" class="number">Takes</th>
            <th scope="col">Last</th>
          </tr>
        </thead>
        <tbody v-for="group in groups" :key="group.key">
          <tr>
            <th colspan="5" scope="rowgroup" class="group">{{ group.name }}</th>
          </tr>
          <tr v-for="row in group.rows" :key="row.task" :class="{ off: !row.on }">
            <td>
              <input
                type="checkbox"
                :checked="row.on"
                :aria-label="`${row.name} on the rota`"
                @change="turn(row)"
              />
            </td>
            <td>
              <router-link :to="{ name: 'task', params: { system: id, task: row.task } }">{{
                row.name
              }}</router-link>
            </td>
            <td>{{ row.every_words }}</td>
            <td class="number">{{ row.minutes }} min</td>
            <td class="soft">{{ row.last || 'not recorded' }}</td>
          </tr>
        </tbody>
      </table>
      <v-btn v-if="!adding" variant="outlined" class="mt-3" @click="adding = true"
        >Add a task of your own</v-btn
      >
      <OwnForm v-else :upkeep="upkeep" :phases="data.phases" @done="adding = false" />
    </template>
  </div>
</template>

<style scoped>
.tasks {
  border-collapse: collapse;
  width: 100%;
  max-width: 980px;
}
th {
  text-align: left;
  font-weight: 400;
}
td,
th {
  padding: 5px 12px 5px 0;
  border-bottom: 1px solid var(--line);
}
.group {
  font-weight: 700;
  padding-top: 14px;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.off td:not(:first-child) {
  color: var(--soft);
}
input {
  width: 20px;
  height: 20px;
}
@media (max-width: 700px) {
  td:nth-child(5),
  th:nth-child(5) {
    display: none;
  }
}
</style>
