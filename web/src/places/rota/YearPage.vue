<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { yearQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import RotaHead from './RotaHead.vue'
import { monthsOf, placeOf } from './yearScale'

const { data, error, refetch } = useQuery(yearQuery)
const months = computed(() => (data.value ? monthsOf(data.value.first, data.value.last) : []))
const at = (day: string) => `${placeOf(day, data.value!.first, data.value!.last)}%`
const systems = computed(() => [...new Set(data.value?.rows.map((row) => row.system))])
</script>

<template>
  <div class="page">
    <RotaHead side="what comes round rarely, through the year" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <p v-else-if="!data.rows.length">
      No task is rarer than every two months.
      <router-link to="/start">Start with your tank</router-link>
      and its gear first.
    </p>
    <div v-else class="year">
      <div class="row head" aria-hidden="true">
        <span />
        <div class="track">
          <span v-for="month in months" :key="month.day" class="month" :style="{ left: at(month.day) }">{{
            month.name
          }}</span>
          <span class="now-word magenta" :style="{ left: at(data.today) }">now</span>
        </div>
      </div>
      <section v-for="system in systems" :key="system" :aria-label="system">
        <h2>{{ system }}</h2>
        <div v-for="row in data.rows.filter((one) => one.system === system)" :key="row.task" class="row">
          <router-link :to="{ name: 'task', params: { system: row.system_id, task: row.task } }">
            {{ row.name }}
            <span class="soft small">{{ row.every_words }}; last {{ row.last }}</span>
          </router-link>
          <div class="track">
            <span v-for="month in months" :key="month.day" class="line" :style="{ left: at(month.day) }" />
            <span class="now" :style="{ left: at(data.today) }" />
            <span
              v-for="mark in row.marks"
              :key="mark.day + mark.words"
              class="mark"
              :class="{ done: mark.done, late: mark.late }"
              :style="{ left: at(mark.day) }"
              :title="mark.words"
              role="img"
              :aria-label="mark.words"
            />
            <span
              v-for="mark in row.marks.filter((one) => !one.done).slice(0, 1)"
              :key="mark.words"
              class="next"
              :style="{ left: at(mark.day) }"
              aria-hidden="true"
              >{{ mark.words.split(',')[0] }}</span
            >
          </div>
        </div>
      </section>
      <p class="note legend">
        <span class="mark done still" /> done <span class="mark still" /> expected
        <span class="mark late still" /> late
      </p>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 300px 1fr;
  gap: 14px;
  align-items: center;
  min-height: 38px;
  border-top: 1px solid var(--line);
}
.row a {
  text-decoration: none;
  line-height: 1.15;
}
.row a:hover {
  text-decoration: underline;
}
.small {
  display: block;
  font-size: 0.8rem;
}
h2 {
  margin-top: 12px;
  padding-bottom: 4px;
}
.head {
  border: 0;
  min-height: 20px;
}
.track {
  position: relative;
  height: 30px;
}
.month,
.now-word {
  position: absolute;
  bottom: 0;
  font-size: 0.8rem;
  color: var(--soft);
  padding-left: 4px;
}
.now-word {
  top: -4px;
  bottom: auto;
  color: var(--magenta);
  transform: translateX(-50%);
  padding: 0;
}
.line,
.now {
  position: absolute;
  top: -5px;
  bottom: -5px;
  border-left: 1px solid var(--line);
}
.now {
  border-left: 2px solid var(--magenta);
}
.mark {
  position: absolute;
  top: 50%;
  width: 13px;
  height: 13px;
  margin: -6px 0 0 -6px;
  border: 2px solid var(--ink);
  background: var(--paper);
  transform: rotate(45deg);
}
.mark.done {
  background: var(--sand);
  border-color: var(--sand);
}
.mark.late {
  border-color: var(--magenta);
}
.next {
  position: absolute;
  top: 50%;
  margin: -9px 0 0 13px;
  font-size: 0.8rem;
  white-space: nowrap;
  background: var(--paper);
}
.legend {
  margin-top: 12px;
}
.still {
  position: static;
  display: inline-block;
  margin: 0 4px -1px 12px;
}
@media (max-width: 900px) {
  .row {
    grid-template-columns: 1fr;
    gap: 2px;
    padding: 4px 0;
  }
  .next {
    display: none;
  }
}
</style>
