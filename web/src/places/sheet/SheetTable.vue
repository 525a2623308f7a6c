<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { fixed } from '../../parts/numbers'
import { dayWords, wall } from '../../parts/wall'
import { DAY } from './timeWindow'

/** The same as the strips, to be read line by line. */
const props = defineProps<{ strips: Schemas['Strip'][]; lanes: Schemas['CareLane'][] }>()
/** What is expected once a week, and at the end. */
const weekly = (points: Schemas['ExpectedPoint'][]) =>
  points.filter(
    (point, i) => i === points.length - 1 || (wall(point.at) - wall(points[0]!.at)) % (7 * DAY) === 0,
  )
/** Past and planned work in order of time, the latest first. */
const work = computed(() =>
  props.lanes
    .flatMap((lane) => lane.marks.map((mark) => ({ ...mark, lane: lane.name })))
    .sort((a, b) => wall(b.at) - wall(a.at)),
)
</script>

<template>
  <div v-for="strip in strips" :key="strip.parameter" class="card block">
    <h2>{{ strip.name }}: {{ strip.verdict.words }}</h2>
    <p v-for="reason in strip.verdict.reasons" :key="reason">{{ reason }}</p>
    <p class="note">
      {{ strip.drift }}<template v-if="strip.crossing">; {{ strip.crossing.words }}</template>
    </p>
    <table>
      <caption class="visually-hidden">
        Readings of
        {{
          strip.name
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Value</th>
          <th scope="col">Instrument</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="mark in [...strip.marks].reverse()" :key="mark.at + mark.instrument">
          <td>{{ mark.when }}</td>
          <td>{{ mark.text }}</td>
          <td>{{ mark.instrument }}</td>
        </tr>
        <tr v-for="point in weekly(strip.expected)" :key="point.at">
          <td>{{ dayWords(wall(point.at)) }}, expected</td>
          <td>
            {{ fixed(point.low, strip.decimals) }} to {{ fixed(point.high, strip.decimals) }} {{ strip.unit }}
          </td>
          <td>as planned</td>
        </tr>
      </tbody>
    </table>
  </div>
  <div class="card block">
    <h2>Care, doses and changes</h2>
    <table>
      <caption class="visually-hidden">
        Work done and planned, the latest first
      </caption>
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">What</th>
          <th scope="col">State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="mark in work" :key="`${mark.lane} ${mark.at} ${mark.words}`">
          <td>{{ dayWords(wall(mark.at)) }}</td>
          <td>{{ mark.words }}</td>
          <td>{{ mark.state }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.block {
  padding: 12px 16px;
  margin-bottom: 12px;
}
table {
  border-collapse: collapse;
  margin-top: 8px;
  font-size: 0.9rem;
}
th,
td {
  text-align: left;
  padding: 3px 28px 3px 0;
  border-bottom: 1px solid var(--line);
}
</style>
