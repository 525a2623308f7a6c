<script setup lang="ts">
import { computed } from 'vue'
import { decimalsOf, fixed } from './numbers'
import { wall } from './wall'

/** A rate over half a year as a strip: its line, and the interval that widens around it. */
const props = defineProps<{
  points: { at: string; value: number; low: number; high: number }[]
  name: string
  unit: string
}>()
const [WIDTH, HEIGHT, LEFT, RIGHT, TOP, FOOT] = [420, 150, 46, 10, 10, 22]
const first = computed(() => wall(props.points[0]!.at))
const last = computed(() => wall(props.points.at(-1)!.at))
const top = computed(() => Math.max(...props.points.map((point) => point.high), 0))
const foot = computed(() => Math.min(...props.points.map((point) => point.low), 0))
const span = computed(() => (top.value - foot.value || 1) * 1.08)
const x = (at: string) =>
  LEFT + ((wall(at) - first.value) / (last.value - first.value)) * (WIDTH - LEFT - RIGHT)
const y = (value: number) => TOP + ((span.value + foot.value - value) / span.value) * (HEIGHT - FOOT - TOP)
const line = computed(() => `M${props.points.map((point) => `${x(point.at)} ${y(point.value)}`).join('L')}`)
const spread = computed(() => {
  const up = props.points.map((point) => `${x(point.at)} ${y(point.high)}`)
  const down = [...props.points].reverse().map((point) => `${x(point.at)} ${y(point.low)}`)
  return `M${[...up, ...down].join('L')}Z`
})
const marks = computed(() => [...new Set([foot.value, 0, top.value])])
const decimals = computed(() => decimalsOf(span.value))
const months = computed(() => {
  const found: { at: string; name: string }[] = []
  for (const point of props.points) {
    const name = new Date(wall(point.at)).toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' })
    if (found.at(-1)?.name !== name) found.push({ at: point.at, name })
  }
  return found
})
const said = computed(() => {
  const [from, to] = [props.points[0]!, props.points.at(-1)!]
  const [first, last] = [from.value, to.value].map((value) => fixed(value, decimals.value))
  return `${props.name} from ${first} to ${last} ${props.unit} a day`
})
</script>

<template>
  <figure>
    <figcaption class="soft">{{ name }}, {{ unit }} a day</figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="said">
      <rect class="ground" :x="LEFT" :y="TOP" :width="WIDTH - LEFT - RIGHT" :height="HEIGHT - FOOT - TOP" />
      <g v-for="mark in marks" :key="mark">
        <line class="grade" :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(mark)" :y2="y(mark)" />
        <text class="number" :x="LEFT - 5" :y="y(mark) + 4" text-anchor="end">
          {{ fixed(mark, decimals) }}
        </text>
      </g>
      <path class="spread" :d="spread" />
      <path class="line" :d="line" />
      <line class="now" :x1="WIDTH - RIGHT" :x2="WIDTH - RIGHT" :y1="TOP" :y2="HEIGHT - FOOT" />
      <text v-for="month in months" :key="month.at" class="number" :x="x(month.at)" :y="HEIGHT - 7">
        {{ month.name }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
figcaption {
  font-size: 0.85rem;
  font-style: italic;
}
svg {
  width: 100%;
  display: block;
}
.grade {
  stroke: var(--line);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.now {
  stroke: var(--magenta);
  stroke-width: 1.5;
}
</style>
