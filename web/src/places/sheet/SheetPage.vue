<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { planOfferQuery, sheetQuery } from '../../api/queries'
import { useKeys } from '../../parts/keys'
import NextList from '../../parts/NextList.vue'
import TankBooks from '../../parts/TankBooks.vue'
import CareDialogs from '../../parts/CareDialogs.vue'
import Waiting from '../../parts/Waiting.vue'
import AddWork from './AddWork.vue'
import BreakingIn from './BreakingIn.vue'
import BudgetList from './BudgetList.vue'
import CareLanes from './CareLanes.vue'
import EventCard from './EventCard.vue'
import JudgementPanel from './JudgementPanel.vue'
import RecordList from './RecordList.vue'
import SheetTable from './SheetTable.vue'
import SheetTools from './SheetTools.vue'
import StripChart from './StripChart.vue'
import TimeAxis from './TimeAxis.vue'
import { DAY, useTimeWindow } from './timeWindow'
import { useAdd } from './useAdd'
import { useProbes } from './useProbes'
import { useTry, type CareMark } from './useTry'

const id = Number(useRoute().params.system)
const reach = { back: ref(21), ahead: ref(14) }
const { data, error, refetch } = useQuery(() => ({
  ...sheetQuery({ id, back: reach.back.value, ahead: reach.ahead.value }),
  // While more of the past is fetched, what is there stays.
  placeholderData: (before) => before,
}))
const { data: offer } = useQuery(() => planOfferQuery(id))
const box = ref<HTMLElement>()
const view = useTimeWindow(data, box, reach)
const probes = useProbes(id, view)

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
  const words = (length: number) =>
    Math.abs(length) < 2 * DAY ? `${Math.round(length / 3_600_000)} h` : `${Math.round(length / DAY)} d`
  return `${words(view.now.value - start)} back, ${words(end - view.now.value)} ahead`
})

const plan = useTry(
  id,
  computed(() => strips.value.map((strip) => strip.parameter)),
  reach.ahead,
)
const add = useAdd(id, () => offer.value, plan)
const touched = ref<CareMark>()
/** Several tasks share a lane: what is touched is called by its own name. */
const laneOf = (mark: CareMark) => mark.words.split(':')[0]!
watch(touched, (mark) => mark && (add.kind.value = undefined))
watch(add.kind, (kind) => kind && (touched.value = undefined))
/** A double click in the future plans on that day; in the past there is nothing to plan. */
function planAt(event: MouseEvent) {
  const at = view.at(event.clientX - box.value!.getBoundingClientRect().left)
  if (at > view.now.value) add.open('change', new Date(at).toISOString().slice(0, 10))
}
useKeys({ a: () => add.open('reading', '', strips.value[0]?.parameter) })
</script>

<template>
  <div class="page sheet">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <section class="chart">
        <div class="title">
          <h1>{{ data.name }}</h1>
          <span class="soft about">{{ data.about }}</span>
        </div>
        <BreakingIn v-if="data.breaking_in" :system="id" />
        <JudgementPanel :system="id" :quiet="data.breaking_in" />
        <SheetTools
          v-model:table="asTable"
          :sheet="data"
          :shown="strips"
          :view="view"
          :box="box"
          @toggle="toggle"
          @add="add.open('reading', '', strips[0]?.parameter)"
        />
        <AddWork v-if="add.kind.value && offer" :add="add" :offer="offer" :doubts="plan.doubts.value" />
        <SheetTable v-if="asTable" :strips="strips" :lanes="data.lanes" />
        <div v-else ref="box" class="box" v-on="view.handlers" @dblclick="planAt">
          <TimeAxis :view="view" :words="span" />
          <StripChart
            v-for="strip in strips"
            :key="`${strip.parameter}${height}`"
            :system="id"
            :strip="strip"
            :view="view"
            :height="height"
            :probes="[
              ...strip.crowds,
              ...(probes ?? []).filter((each) => each.parameter === strip.parameter),
            ]"
            :tried="plan.tried.value[strip.parameter]"
          />
          <CareLanes
            :lanes="data.lanes"
            :view="view"
            :plan="plan"
            :chosen="touched"
            @choose="touched = $event"
          />
          <p v-if="!strips.length" class="note empty">
            No tests in this time. Enter a test session on the Bench.
          </p>
        </div>
        <EventCard
          v-if="touched"
          :mark="touched"
          :lane="laneOf(touched)"
          :system="id"
          :plan="plan"
          :tried="plan.tried.value"
          @close="touched = undefined"
        />
        <CareDialogs :care="plan.care" />
        <BudgetList v-if="data.budget.length" :lines="data.budget" :system="id" />
        <RecordList :system="id" />
      </section>
      <div class="aside">
        <NextList
          :items="data.next"
          :system="id"
          head="Next"
          :side="`${data.minutes_today} min today`"
          empty="Nothing to do now. Come back tomorrow, or look at the Rota."
        />
        <TankBooks :system="id" class="mt-4 no-print" />
      </div>
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
