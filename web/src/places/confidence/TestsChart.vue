<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { decimalsOf, fixed } from '../../parts/numbers'
import { shortDay, wall } from '../../parts/wall'

/** Each test as a dot on what was expected of it: a bar that holds eight of ten. */
const props = defineProps<{ tests: Schemas['TestShown'][]; name: string; unit: string }>()
const [WIDTH, HEIGHT, LEFT, RIGHT, TOP, FOOT, BAR] = [640, 170, 46, 14, 10, 22, 9]
/* The first tests hardly knew what to expect: their bars may leave the picture. */
const values = computed(() => props.tests.map((test) => test.value))
const span = computed(() => {
  const sure = props.tests.slice(-Math.max(3, Math.ceil(props.tests.length / 2)))
  const ends = [...values.value, ...sure.flatMap((test) => [test.low, test.high])]
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  const room = (high - low || 1) * 0.06
  return [low - room, high + room] as const
})
const times = computed(() => props.tests.map((test) => wall(test.at)))
const x = (at: number) => {
  const [first, last] = [times.value[0]!, times.value.at(-1)!]
  return LEFT + BAR + ((at - first) / (last - first || 1)) * (WIDTH - LEFT - RIGHT - 2 * BAR)
}
const y = (value: number) => {
  const [low, high] = span.value
  const share = (high - Math.min(high, Math.max(low, value))) / (high - low)
  return TOP + share * (HEIGHT - FOOT - TOP)
}
const marks = computed(() => {
  const [low, high] = span.value
  return [0.1, 0.5, 0.9].map((share) => low + share * (high - low))
})
const decimals = computed(() => decimalsOf(span.value[1] - span.value[0]))
/* As many dates as have room. */
const days = computed(() => {
  const every = Math.ceil(times.value.length / 8)
  return times.value.filter((_, place) => place % every === 0)
})
</script>

<template>
  <figure>
    <figcaption class="soft">
      {{ name }} as tested, on what was expected of each test beforehand, {{ unit }}
    </figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`${tests.length} tests of ${name}`">
      <g v-for="mark in marks" :key="mark">
        <line class="grade" :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(mark)" :y2="y(mark)" />
        <text class="number" :x="LEFT - 5" :y="y(mark) + 4" text-anchor="end">
          {{ fixed(mark, decimals) }}
        </text>
      </g>
      <g v-for="(test, place) in tests" :key="test.at">
        <title>{{ test.words }}</title>
        <rect
          class="spread"
          :x="x(times[place]!) - BAR / 2"
          :y="y(test.high)"
          :width="BAR"
          :height="Math.max(1, y(test.low) - y(test.high))"
        />
        <circle :class="{ wrong: test.wrong }" :cx="x(times[place]!)" :cy="y(test.value)" r="3.5" />
      </g>
      <text v-for="day in days" :key="day" class="number" :x="x(day)" :y="HEIGHT - 7" text-anchor="middle">
        {{ shortDay(day) }}
      </text>
    </svg>
    <details class="no-print">
      <summary class="soft">test by test</summary>
      <ul>
        <li v-for="test in [...tests].reverse()" :key="test.at" :class="{ magenta: test.wrong }">
          {{ test.words }}
        </li>
      </ul>
    </details>
  </figure>
</template>

<style scoped>
figcaption,
details {
  font-size: 0.85rem;
}
figcaption {
  font-style: italic;
}
svg {
  width: 100%;
  display: block;
}
ul {
  padding-left: 18px;
}
summary {
  cursor: pointer;
}
.grade {
  stroke: var(--line);
}
circle {
  fill: var(--ink);
}
.wrong {
  fill: var(--card);
  stroke: var(--magenta);
  stroke-width: 2;
}
</style>
