<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { emergencyQuery } from '../../api/queries'
import { useCare } from '../../parts/care'
import Waiting from '../../parts/Waiting.vue'
import SheetStep from './SheetStep.vue'

/** One emergency: first, second, third, with this tank's amounts; to work from, or to hang by the tank. */
const route = useRoute()
const id = Number(route.params.system)
const key = String(route.params.sheet)
const { data, error, refetch } = useQuery(() => emergencyQuery({ id, key }))
const care = useCare()
const print = () => window.print()
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>{{ data.name }}</h1>
        <span class="soft">{{ data.system }}: {{ data.about }}</span>
      </div>
      <p class="ways no-print">
        <v-btn size="large" @click="care.start({ system_id: id, runbook: key })">
          {{ data.run_id ? 'Go on step by step' : 'Work through it step by step' }}
        </v-btn>
        <v-btn size="large" variant="outlined" @click="print">Print</v-btn>
        <router-link :to="{ name: 'emergencies', params: { system: id } }">All emergencies</router-link>
      </p>
      <div class="columns">
        <ol aria-label="What to do, in order">
          <SheetStep v-for="step in data.steps" :key="step.number" :step="step" />
        </ol>
        <aside>
          <section class="never" aria-labelledby="never-title">
            <h2 id="never-title">Do not</h2>
            <ul>
              <li v-for="one in data.never" :key="one">{{ one }}</li>
            </ul>
          </section>
          <dl>
            <dt>How long they bear it</dt>
            <dd>{{ data.bears }}</dd>
            <dt>It is over when</dt>
            <dd>{{ data.stop }}</dd>
            <dt>Call</dt>
            <dd>{{ data.call }}</dd>
            <template v-if="data.held">
              <dt>Held back while you work on it</dt>
              <dd>{{ data.held }}</dd>
            </template>
            <dt>Afterwards</dt>
            <dd>{{ data.afterwards }}</dd>
          </dl>
        </aside>
      </div>
      <p class="note">
        Worked out from this tank’s own record; measure before you pour. It does not replace a doctor, a
        veterinary surgeon, an electrician or a product’s own safety sheet.
      </p>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 1180px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 18px;
  align-items: center;
  margin-bottom: 12px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 3fr);
  gap: 24px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
.never {
  border: 2px solid var(--magenta);
  border-radius: 8px;
  padding: 10px 16px;
  margin-bottom: 14px;
}
h2 {
  font-size: 1.1rem;
  color: var(--magenta);
}
.never ul {
  padding-left: 18px;
  margin: 4px 0 0;
}
.never li {
  margin: 4px 0;
}
dt {
  font-weight: 700;
  margin-top: 10px;
}
dd {
  margin: 2px 0 0;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .columns {
    gap: 14px;
  }
}
</style>
