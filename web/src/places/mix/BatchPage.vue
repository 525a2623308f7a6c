<script setup lang="ts">
import { computed, reactive } from 'vue'
import { useRoute } from 'vue-router'
import CautionList from '../../parts/CautionList.vue'
import ChemText from '../../parts/ChemText.vue'
import { useCare } from '../../parts/care'
import Waiting from '../../parts/Waiting.vue'
import BatchMoves from './BatchMoves.vue'
import PhaseTrack from './PhaseTrack.vue'
import WaterBox from './WaterBox.vue'
import { useBatch } from './useBatch'

const id = Number(useRoute().params.batch)
const batch = useBatch(id)
const { data, error, refetch, refused, busy } = batch
const care = useCare()
const measured = reactive<Record<string, string>>({})
const filled = computed(() => Object.values(measured).some((text) => text.trim()))
async function keep() {
  if (await batch.happened({ kind: 'measured', values: { ...measured } }))
    for (const key of Object.keys(measured)) delete measured[key]
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>{{ data.name }}</h1>
        <span class="soft">{{ data.words }}</span>
        <span class="grow" />
        <router-link :to="{ name: 'mix' }">all batches</router-link>
      </div>
      <PhaseTrack :life="data.life" :phase="data.phase" />
      <p v-if="data.age" :class="data.stale ? 'magenta' : 'soft'" class="my-2">{{ data.age }}.</p>
      <div class="planner">
        <section>
          <form @submit.prevent="keep">
            <table class="values">
              <caption class="visually-hidden">
                What it holds
              </caption>
              <thead>
                <tr>
                  <th scope="col">What it holds</th>
                  <th scope="col" class="number">planned</th>
                  <th scope="col" class="number">now</th>
                  <th scope="col" class="known">known</th>
                  <th v-if="data.phase !== 'planned'" scope="col">measure</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="row in data.rows" :key="row.parameter">
                  <th scope="row">
                    {{ row.name }} <span class="unit">{{ row.unit }}</span>
                  </th>
                  <td class="number">{{ row.planned || '–' }}</td>
                  <td class="number" :class="{ magenta: !row.met }">
                    <b v-if="row.measured">{{ row.now }}</b><template v-else>{{ row.now || '–' }}</template>
                  </td>
                  <td class="soft known">{{ row.met ? row.remark : 'measured, not as planned' }}</td>
                  <td v-if="data.phase !== 'planned'">
                    <input
                      v-model="measured[row.parameter]"
                      inputmode="decimal"
                      autocomplete="off"
                      :aria-label="`Measured ${row.name}`"
                      :aria-invalid="!!refused?.at(`values.${row.parameter}`)"
                    />
                    <p v-if="refused?.at(`values.${row.parameter}`)" class="magenta small" role="alert">
                      {{ refused.at(`values.${row.parameter}`) }}
                    </p>
                  </td>
                </tr>
              </tbody>
            </table>
            <v-btn v-if="filled" type="submit" variant="flat" class="mt-2" :loading="busy"
              >Save results</v-btn
            >
          </form>
          <div v-if="data.correction.length" class="card lacks" role="status">
            <h2 class="magenta">To match the plan</h2>
            <ol>
              <li v-for="line in data.correction" :key="line"><ChemText :text="line" /></li>
            </ol>
            <v-btn v-if="data.can_correct" size="small" :loading="busy" @click="batch.correct()"
              >Record as done</v-btn
            >
          </div>
          <p v-if="data.strength" class="note my-3">{{ data.strength }}</p>
          <h2 v-if="data.events.length" class="mt-4">What happened</h2>
          <p v-for="(one, index) in data.events" :key="index" class="small">
            <span class="soft">{{ one.when }}</span> <ChemText :text="one.words" />
          </p>
        </section>
        <aside>
          <div class="box">
            <WaterBox :filled="data.filled" :size="88" />
            <div>
              <b>{{ data.litres }}</b> <span class="soft">in {{ data.container }}</span>
              <p v-for="line in data.portions" :key="line" class="soft small">{{ line }}</p>
            </div>
          </div>
          <BatchMoves :batch="batch" :data="data" @work="care.start({ batch_id: id })" />
          <CautionList :cautions="data.cautions" />
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
input {
  width: 5.4em;
  text-align: right;
  padding: 3px 6px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
}
input[aria-invalid='true'] {
  border-color: var(--magenta);
}
@media (max-width: 600px) {
  .known {
    display: none;
  }
  input {
    width: 4.4em;
  }
}
.lacks {
  padding: 10px 16px;
  margin-top: 14px;
}
.lacks ol {
  padding-left: 20px;
  margin: 4px 0 8px;
}
.box {
  display: flex;
  gap: 14px;
  align-items: center;
  margin-bottom: 14px;
}
.small {
  font-size: 0.9rem;
}
</style>
