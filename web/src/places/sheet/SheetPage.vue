<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { sheetQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import BreakingIn from './BreakingIn.vue'
import CareLanes from './CareLanes.vue'
import JudgementPanel from './JudgementPanel.vue'
import NextList from './NextList.vue'
import RecordList from './RecordList.vue'
import SheetTable from './SheetTable.vue'
import StripChart from './StripChart.vue'
import TimeAxis from './TimeAxis.vue'
import { DAY, useTimeWindow } from './timeWindow'

const id = Number(useRoute().params.system)
const back = ref(21)
const { data, error, refetch } = useQuery(() => ({
  ...sheetQuery({ id, back: back.value, ahead: 14 }),
  // While more of the past is fetched, what is there stays.
  placeholderData: (before) => before,
}))
const box = ref<HTMLElement>()
const view = useTimeWindow(data, box, back)

const chosen = ref<string[]>()
const strips = computed(() => {
  const all = data.value?.strips ?? []
  return all.filter((strip) => (chosen.value ? chosen.value.includes(strip.parameter) : strip.shown_first))
})
/* Few strips use the room there is. */
const height = computed(() => (strips.value.length <= 2 ? 168 : 132))
const asTable = ref(false)
function toggle(parameter: string) {
  const shown = strips.value.map((strip) => strip.parameter)
  chosen.value = shown.includes(parameter)
    ? shown.filter((name) => name !== parameter)
    : [...shown, parameter]
}
const span = computed(() => {
  const [start, end] = view.span.value
  const { now } = view
  return `${Math.round((now.value - start) / DAY)} d back, ${Math.round((end - now.value) / DAY)} d ahead`
})
</script>

<template>
  <div class="page sheet">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <section class="chart">
        <div class="title">
          <h1>{{ data.name }}</h1>
          <span class="soft about">{{ data.about }}</span>
          <span class="zoom small no-print">
            <button class="plain-link" type="button" @click="view.zoom(1.5)">wider</button>
            <button class="plain-link" type="button" @click="view.zoom(1 / 1.5)">closer</button>
            <button class="plain-link" type="button" @click="view.reset()">now</button>
            <button class="plain-link" type="button" @click="asTable = !asTable">
              {{ asTable ? 'as strips' : 'as a table' }}
            </button>
          </span>
        </div>
        <BreakingIn v-if="data.breaking_in" :system="id" />
        <JudgementPanel :system="id" :quiet="data.breaking_in" />
        <div class="tools no-print">
          <fieldset>
            <legend class="visually-hidden">Strips to show</legend>
            <label v-for="strip in data.strips" :key="strip.parameter">
              <input
                type="checkbox"
                :checked="strips.some((one) => one.parameter === strip.parameter)"
                @change="toggle(strip.parameter)"
              />
              {{ strip.name }}
            </label>
          </fieldset>
        </div>
        <SheetTable v-if="asTable" :strips="strips" />
        <div v-else ref="box" class="box" v-on="view.handlers">
          <TimeAxis :view="view" :words="span" />
          <StripChart
            v-for="strip in strips"
            :key="`${strip.parameter}${height}`"
            :strip="strip"
            :view="view"
            :height="height"
          />
          <CareLanes :lanes="data.lanes" :view="view" />
          <p v-if="!strips.length" class="note empty">
            Nothing was measured in this time. Enter a first test session on the Bench.
          </p>
        </div>
        <RecordList :system="id" />
      </section>
      <NextList :sheet="data" class="aside" />
    </template>
  </div>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 290px;
  gap: 20px;
}
.title {
  display: flex;
  align-items: baseline;
  gap: 10px;
  flex-wrap: wrap;
}
.small,
.about {
  font-size: 0.875rem;
}
.tools {
  display: flex;
  justify-content: space-between;
  gap: 14px;
  flex-wrap: wrap;
  font-size: 0.85rem;
  margin: 6px 0 4px;
}
fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
label {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
input {
  accent-color: var(--ink);
}
@media (max-width: 900px) {
  fieldset {
    gap: 8px 14px;
  }
  input {
    width: 18px;
    height: 18px;
  }
}
.zoom {
  margin-left: auto;
  display: flex;
  gap: 14px;
}
.box {
  overflow: hidden;
  touch-action: pan-y;
  position: relative;
}
.empty {
  padding: 12px 0 12px 120px;
}
@media (max-width: 1000px) {
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
  .aside {
    order: -1;
  }
}
@media print {
  .sheet {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
