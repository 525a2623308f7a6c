<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import type { Schemas } from '../../api/client'
import CompareStrip from './CompareStrip.vue'
import CompareTable from './CompareTable.vue'
import FindPlan from './FindPlan.vue'
import PriceList from './PriceList.vue'
import { LETTERS, useWhatIf } from './useWhatIf'
import VariantEditor from './VariantEditor.vue'

const props = defineProps<{ system: number; offer: Schemas['WhatIfOffer'] }>()
const what = useWhatIf(props.system, props.offer)
const { drafts, days, result, problem } = what
const SPANS = { '4 weeks': 28, '8 weeks': 56, 'half a year': 182, 'a year': 366 }
const box = ref<HTMLElement>()
const width = ref(720)
const watcher = new ResizeObserver(
  (entries) => (width.value = Math.max(260, Math.floor(entries[0]!.contentRect.width))),
)
onMounted(() => box.value && watcher.observe(box.value))
onBeforeUnmount(() => watcher.disconnect())
</script>

<template>
  <div>
    <div class="title">
      <h1>What if, {{ offer.name }}</h1>
      <label class="soft">
        over
        <select v-model="days">
          <option v-for="(length, name) in SPANS" :key="name" :value="length">{{ name }}</option>
        </select>
      </label>
      <span class="ways no-print">
        <button v-if="drafts.length < LETTERS.length" class="plain-link" type="button" @click="what.add">
          add a plan
        </button>
        <button class="plain-link" type="button" @click="what.restart">start again</button>
      </span>
    </div>
    <div class="variants">
      <VariantEditor
        v-for="(_, place) in drafts"
        :key="place"
        v-model="drafts[place]!"
        :system="system"
        :letter="LETTERS[place]!"
        :place="place"
        :offer="offer"
        :wrong="what.wrong(place)"
        :alone="drafts.length === 1"
        @remove="what.remove(place)"
        @adopt="what.adopt(place)"
      />
    </div>
    <p v-if="offer.plans.length" class="proposed no-print">
      <span class="soft">Proposed for this tank:</span>
      <v-btn
        v-for="one in offer.plans"
        :key="one.plan"
        size="small"
        variant="outlined"
        @click="what.take(one)"
      >
        Compare: {{ one.name }}
      </v-btn>
    </p>
    <FindPlan :system="system" @take="what.take" />
    <p v-if="problem && !problem.problem.fields.length" class="magenta" role="alert">{{ problem.message }}</p>
    <div ref="box">
      <template v-if="result">
        <CompareTable :compared="result" :drafts="drafts" />
        <PriceList :system="system" :offer="offer" @kept="what.again" />
        <p class="note">
          The lines are what is expected; the shade is the 80 % interval of plan A. Uptake is taken to
          continue as now, and rising nutrients to follow the food in proportion (a judgement).
        </p>
        <CompareStrip v-for="strip in result.strips" :key="strip.parameter" :strip="strip" :width="width" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.title {
  display: flex;
  align-items: baseline;
  gap: 16px;
  flex-wrap: wrap;
  margin-bottom: 8px;
}
.ways {
  margin-left: auto;
  display: flex;
  gap: 16px;
  font-size: 0.875rem;
}
.proposed {
  display: flex;
  align-items: center;
  gap: 8px;
  flex-wrap: wrap;
  margin: 10px 0;
}
.proposed :deep(.v-btn) {
  height: auto;
  min-height: 32px;
  white-space: normal;
}
select {
  border: 0;
  border-bottom: 1.5px solid var(--soft);
  background: none;
  color: var(--ink);
}
option {
  color: #14303d;
}
.variants {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(250px, 1fr));
  gap: 12px;
}
</style>
