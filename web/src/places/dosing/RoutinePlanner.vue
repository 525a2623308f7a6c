<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import BillList from '../../parts/BillList.vue'
import CautionList from '../../parts/CautionList.vue'
import Working from '../../parts/Working.vue'
import NoPlan from '../../parts/NoPlan.vue'
import RoutineSentence from './RoutineSentence.vue'
import { useRoutine } from './useRoutine'

const props = defineProps<{ system: number; offer: Schemas['DosingOffer'] }>()
const routine = useRoutine(props.system, props.offer.body)
const plan = computed(() => routine.result.value)
const problem = computed(() => routine.problem.value)
/** Whether this is how it is dosed already. */
const adopted = computed(
  () => props.offer.adopted && JSON.stringify(routine.request) === JSON.stringify(props.offer.body),
)
</script>

<template>
  <div class="planner">
    <section>
      <RoutineSentence :routine="routine" :offer="offer" />
      <p v-if="problem && !problem.problem.fields.length" class="magenta" role="alert">
        {{ problem.message }}
      </p>
      <template v-if="plan">
        <p class="summary">{{ plan.summary }}</p>
        <table class="values">
          <caption class="visually-hidden">
            What each adds a day
          </caption>
          <thead>
            <tr>
              <th scope="col">A day</th>
              <th v-for="column in plan.columns" :key="column" scope="col" class="number">{{ column }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, index) in plan.rows" :key="row.name" :class="{ used: !index }">
              <th scope="row">{{ row.name }}</th>
              <td v-for="(amount, place) in row.amounts" :key="place" class="number">{{ amount }}</td>
            </tr>
          </tbody>
        </table>
        <p v-for="line in plan.left" :key="line" class="magenta mt-2" role="status">{{ line }}.</p>
        <p v-for="line in plan.ease" :key="line" class="mt-2">{{ line }}</p>
        <p v-for="line in plan.notes" :key="line" class="mt-2">{{ line }}</p>
        <p v-if="plan.flood" class="mt-2" :class="{ magenta: plan.flood_bad }">{{ plan.flood }}</p>
        <p v-if="plan.carry" class="soft small mt-3">{{ plan.carry }}</p>
        <p class="soft small">{{ offer.evaporation }}.</p>
        <details v-if="plan.working.length" class="mt-2">
          <summary class="soft">how each is worked out</summary>
          <Working :steps="plan.working" />
        </details>
      </template>
    </section>
    <aside v-if="plan" :class="{ stale: problem }">
      <BillList :figures="plan.amounts" head="Every day" />
      <v-btn
        block
        variant="flat"
        class="my-3"
        :disabled="!!problem || adopted"
        :loading="routine.busy.value"
        @click="routine.adopt()"
        >{{ adopted ? 'In use' : 'Use this dose from now on' }}</v-btn
      >
      <template v-if="plan.behind.length">
        <h2>What builds up</h2>
        <table class="values small">
          <thead>
            <tr>
              <th scope="col"></th>
              <th scope="col" class="number">in a year</th>
              <th scope="col" class="number">with changes, settles</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in plan.behind" :key="row.name">
              <th scope="row">{{ row.name }}</th>
              <td class="number">{{ row.a_year }}</td>
              <td class="number">{{ row.settles || '–' }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <CautionList :cautions="plan.cautions" />
    </aside>
    <NoPlan v-else-if="problem" />
  </div>
</template>

<style scoped>
.summary {
  margin: 12px 0 8px;
  font-weight: 600;
  font-size: 1.05rem;
}
.used {
  background: var(--shallow);
}
.used th {
  padding-left: 8px;
}
.small {
  font-size: 0.9rem;
}
.stale {
  opacity: 0.55;
}
</style>
