<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import type { Schemas } from '../../api/client'
import { confidenceOfQuery } from '../../api/queries'
import RateStrip from '../../parts/RateStrip.vue'
import Waiting from '../../parts/Waiting.vue'
import TestsChart from './TestsChart.vue'

/** All that the rate of one parameter rests on. */
const props = defineProps<{ system: number; parameter: Schemas['ConfidenceRow']['parameter'] }>()
const { data, error, refetch } = useQuery(() =>
  confidenceOfQuery({ id: props.system, parameter: props.parameter }),
)
</script>

<template>
  <div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <section v-else class="card one" :aria-label="data.name">
      <h2>{{ data.name }}</h2>
      <div class="charts">
        <TestsChart :tests="data.tests" :name="data.name" :unit="data.unit" />
        <RateStrip
          v-if="data.history.length > 1"
          :points="data.history"
          :name="`What ${data.name.toLowerCase()} does by itself`"
          :unit="data.unit"
        />
      </div>
      <div class="words">
        <div>
          <h3>What the app believes</h3>
          <ul>
            <li v-for="words in data.beliefs" :key="words">{{ words }}</li>
          </ul>
        </div>
        <div>
          <h3>What would change its mind</h3>
          <ul>
            <li v-for="words in data.minds" :key="words">{{ words }}</li>
          </ul>
        </div>
        <div>
          <h3>Its instruments</h3>
          <ul>
            <li v-for="one in data.instruments" :key="one.name">
              <b>{{ one.name }}</b> scatters by {{ one.scatter }}
              <span class="soft">({{ one.tests }})</span>
              <template v-if="one.above">; it reads {{ one.above }} the one used last</template>
            </li>
          </ul>
        </div>
      </div>
    </section>
  </div>
</template>

<style scoped>
.one {
  margin-top: 16px;
  padding: 12px 16px;
}
.charts {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: 10px 22px;
  margin-top: 8px;
}
.words {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 14px 28px;
  margin-top: 12px;
}
h3 {
  font-size: 0.95rem;
  font-weight: 700;
}
ul {
  padding-left: 18px;
}
@media (max-width: 900px) {
  .charts,
  .words {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
