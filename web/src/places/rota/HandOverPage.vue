<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { handOverQuery } from '../../api/queries'
import CarerSheet from '../../parts/CarerSheet.vue'
import Waiting from '../../parts/Waiting.vue'
import HandOverForm from './HandOverForm.vue'
import ReportList from './ReportList.vue'
import RotaHead from './RotaHead.vue'

const number = Number(useRoute().params.away)
const { data, error, refetch } = useQuery(() => handOverQuery(number))
const print = () => window.print()
</script>

<template>
  <div class="page">
    <RotaHead class="no-print" side="an absence, handed over to a carer" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <p v-else-if="!data.sheet.systems.length && !data.sheet.untold.length">
      There is nothing to hand over yet.
      <router-link :to="{ name: 'start' }">Start with your tank</router-link> first.
    </p>
    <template v-else>
      <ReportList v-if="data.reports.length" class="no-print" :reports="data.reports" />
      <HandOverForm :key="String(data.kept)" class="no-print" :kept="data" />
      <section v-if="data.before.length || data.early" class="no-print before">
        <h2>Before you leave</h2>
        <p v-if="data.early" class="note">{{ data.early }}</p>
        <div v-for="one in data.before" :key="one.name" class="one">
          <h3>{{ one.name }}</h3>
          <ul>
            <li v-for="line in one.before" :key="line">{{ line }}</li>
            <li v-if="one.waits.length" class="soft">Waits until you are back: {{ one.waits.join(', ') }}</li>
          </ul>
        </div>
      </section>
      <div class="head">
        <h2>
          Hand-over<template v-if="data.carer"> for {{ data.carer }}</template>
        </h2>
        <span class="soft">{{ data.sheet.days }}, {{ data.sheet.visits }}</span>
        <button class="plain-link no-print" type="button" @click="print">print</button>
      </div>
      <CarerSheet :sheet="data.sheet" />
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 1180px;
}
.before {
  margin: 14px 0;
}
.one {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 2px 14px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
h3 {
  font-size: 0.95rem;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  margin-top: 18px;
}
.head h2 {
  font-size: 1.3rem;
}
@media (max-width: 700px) {
  .one {
    grid-template-columns: 1fr;
  }
}
</style>
