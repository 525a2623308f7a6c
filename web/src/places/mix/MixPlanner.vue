<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import BillList from '../../parts/BillList.vue'
import CautionList from '../../parts/CautionList.vue'
import ChemText from '../../parts/ChemText.vue'
import NoPlan from '../../parts/NoPlan.vue'
import MixSentence from './MixSentence.vue'
import WantedList from './WantedList.vue'
import WaterBox from './WaterBox.vue'
import { useMix, type MixRequest } from './useMix'

const props = defineProps<{ offer: Schemas['MixOffer']; first: MixRequest }>()
const mix = useMix(props.first)
const plan = computed(() => mix.result.value)
const problem = computed(() => mix.problem.value ?? mix.refused.value)
</script>

<template>
  <div class="planner">
    <section>
      <h2>For</h2>
      <WantedList :mix="mix" :wanted="offer.wanted" />
      <MixSentence :mix="mix" :offer="offer" />
      <p v-if="problem && !problem.problem.fields.length" class="magenta" role="alert">
        {{ problem.message }}
      </p>
      <template v-if="plan">
        <p class="summary">{{ plan.summary }}</p>
        <table class="values">
          <caption class="visually-hidden">
            What the batch will hold
          </caption>
          <thead>
            <tr>
              <th scope="col">What it will hold</th>
              <th scope="col" class="number">by the salt</th>
              <th scope="col" class="number">after doses</th>
              <th scope="col" class="number">aimed at</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in plan.rows" :key="row.name">
              <th scope="row">
                {{ row.name }} <span class="unit">{{ row.unit }}</span>
              </th>
              <td class="number">{{ row.label }}</td>
              <td class="number">
                <b>{{ row.planned }}</b>
              </td>
              <td class="number">{{ row.aim || '–' }}</td>
            </tr>
          </tbody>
        </table>
        <template v-if="plan.portions.length > 1">
          <h2 class="mt-4">When it is poured</h2>
          <p v-for="one in plan.portions" :key="one.system_id">
            <b>{{ one.name }}</b> {{ one.words }}
          </p>
        </template>
        <h2 class="mt-4">Salts on the Shelf for this water</h2>
        <p v-for="one in plan.ranking" :key="one.name" class="small">
          <b>{{ one.name }}{{ one.chosen ? ' (chosen)' : '' }}</b> <ChemText :text="one.words" />
        </p>
      </template>
    </section>
    <aside v-if="plan" :class="{ stale: problem }">
      <BillList :figures="plan.figures" head="What goes in, in this order" />
      <div class="box">
        <WaterBox :filled="plan.filled" :size="72" />
        <p class="soft">{{ plan.headroom }}.</p>
      </div>
      <p class="small">{{ plan.stock }}</p>
      <v-btn block variant="flat" :disabled="!!problem" :loading="mix.busy.value" @click="mix.make()"
        >Plan this batch</v-btn
      >
      <CautionList :cautions="plan.cautions" />
    </aside>
    <NoPlan v-else-if="problem" />
  </div>
</template>

<style scoped>
.summary {
  margin: 12px 0 8px;
  font-weight: 600;
}
.stale {
  opacity: 0.55;
}
.box {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 12px 0;
}
.small {
  font-size: 0.9rem;
  margin: 4px 0;
}
aside > .small {
  margin-bottom: 12px;
}
</style>
