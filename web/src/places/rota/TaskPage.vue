<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute, useRouter } from 'vue-router'
import { taskQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import ChoiceForm from './ChoiceForm.vue'
import LastDone from './LastDone.vue'
import RotaHead from './RotaHead.vue'
import TimesList from './TimesList.vue'
import { useUpkeep } from '../../parts/useUpkeep'

const route = useRoute()
const router = useRouter()
const id = Number(route.params.system)
const wanted = () => ({ id, task: String(route.params.task) })
const { data, error, refetch } = useQuery(() => taskQuery(wanted()))
const upkeep = useUpkeep(id)

async function takeAway() {
  if (data.value && (await upkeep.takeAway(data.value.task))) {
    await router.push({ name: 'tasks', params: { system: id } })
  }
}
</script>

<template>
  <div class="page">
    <RotaHead side="one task in full" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="planner">
      <section>
        <h2>{{ data.name }}, {{ data.system }}</h2>
        <p>{{ data.about }} {{ data.tool }}</p>
        <dl class="facts">
          <dt>How often</dt>
          <dd>{{ data.every_words }}; {{ data.window }}</dd>
          <dt>Takes</dt>
          <dd>{{ data.minutes_words }}</dd>
          <dt>So far</dt>
          <dd>{{ data.gaps_words }}</dd>
          <template v-if="data.kit.length">
            <dt>You need</dt>
            <dd>{{ data.kit.join(', ') }}</dd>
          </template>
          <template v-if="data.goes_with.length">
            <dt>Goes with</dt>
            <dd>{{ data.goes_with.join(', ') }}</dd>
          </template>
          <template v-if="data.follows.length">
            <dt>Comes after</dt>
            <dd>{{ data.follows.join(', ') }}</dd>
          </template>
          <template v-if="data.never_with.length">
            <dt>Never on the day of</dt>
            <dd>{{ data.never_with.join(', ') }}</dd>
          </template>
        </dl>
        <LastDone :task="data.task" :upkeep="upkeep" />
        <p v-if="data.trend" class="trend">{{ data.trend }}</p>
        <TimesList :times="data.times" />
      </section>
      <aside>
        <ChoiceForm :key="JSON.stringify(data.choice)" :task="data" :upkeep="upkeep" />
        <v-btn v-if="data.own" class="mt-3" @click="takeAway">Remove this task</v-btn>
        <div v-for="caution in data.cautions" :key="caution" class="caution" role="note">{{ caution }}</div>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
  margin: 12px 0;
}
dt {
  color: var(--soft);
}
.trend {
  border-left: 4px solid var(--sand);
  padding-left: 12px;
  margin-bottom: 12px;
}
.caution {
  border: 1px solid var(--line);
  border-left: 4px solid var(--magenta);
  background: var(--card);
  padding: 8px 12px;
  font-size: 0.9rem;
  margin-top: 12px;
}
</style>
