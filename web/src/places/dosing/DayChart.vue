<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { fixed } from '../../parts/numbers'

/** A day of pH from midnight to midnight: measured, as dosed now, and as it could be; below, when to dose. */
const props = defineProps<{ answer: Schemas['DayAnswer']; lights: number[]; shown: string[] }>()
/* Drawn for the screen it is opened on: text keeps its size on a phone. */
const WIDTH = Math.min(760, Math.max(340, window.innerWidth - 36))
const [HEIGHT, LEFT, RIGHT, TOP, FOOT, BARS] = [330, 44, 12, 12, 26, 60]
const hours = WIDTH < 500 ? [0, 6, 12, 18, 24] : [0, 3, 6, 9, 12, 15, 18, 21, 24]
const floor = HEIGHT - FOOT - BARS - 14
const curves = computed(() =>
  [props.answer.measured, ...props.answer.curves].filter((curve) => props.shown.includes(curve.key)),
)
const low = computed(() => Math.min(...curves.value.flatMap((curve) => curve.ph)) - 0.02)
const high = computed(() => Math.max(...curves.value.flatMap((curve) => curve.ph)) + 0.02)
const x = (hour: number) => LEFT + (hour / 24) * (WIDTH - LEFT - RIGHT)
const y = (ph: number) => floor - ((ph - low.value) / (high.value - low.value)) * (floor - TOP)
/** A measured day has one mean an hour, a predicted one has quarters of an hour. */
function path(curve: Schemas['Curve']) {
  const every = curve.key === 'measured' ? 4 : 1
  const points = curve.ph.filter((_, index) => index % every === 0)
  return `M${points.map((value, index) => `${x(((index + 0.5) * every) / 4)} ${y(value)}`).join('L')}`
}
const nights = computed(() => {
  const [on, off] = props.lights
  if (on === undefined || off === undefined) return []
  return off > on
    ? [
        [0, on],
        [off, 24],
      ]
    : [[off, on]]
})
const marks = computed(() => {
  const step = high.value - low.value > 0.35 ? 0.1 : 0.05
  const first = Math.ceil(low.value / step) * step
  return Array.from({ length: Math.floor((high.value - first) / step) + 1 }, (_, i) => first + i * step)
})
const amount = (text: string) => Number(text.replace(',', '.')) || 0
const most = computed(() =>
  Math.max(0.1, ...props.answer.doses.flatMap((dose) => dose.amounts.map((text) => amount(text)))),
)
const hourOf = (time: string) => {
  const [hour, rest] = time.split(':')
  const half = rest!.includes('pm') ? 12 : 0
  return (Number(hour) % (half || rest!.includes('am') ? 12 : 24)) + half + parseInt(rest!) / 60
}
const bars = computed(() =>
  props.answer.doses.flatMap((dose) =>
    dose.amounts.map((text, part) => ({
      part,
      text,
      x: x(hourOf(dose.time)) + 3 + part * 9,
      height: (amount(text) / most.value) * (BARS - 14),
    })),
  ),
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="pH from midnight to midnight">
      <rect class="ground" :x="LEFT" :y="TOP" :width="WIDTH - LEFT - RIGHT" :height="floor - TOP" />
      <rect
        v-for="[from, to] in nights"
        :key="from"
        class="night"
        :x="x(from!)"
        :y="TOP"
        :width="x(to!) - x(from!)"
        :height="floor - TOP"
      />
      <g v-for="mark in marks" :key="mark">
        <line class="grade" :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(mark)" :y2="y(mark)" />
        <text class="number" :x="LEFT - 5" :y="y(mark) + 4" text-anchor="end">{{ fixed(mark, 2) }}</text>
      </g>
      <path v-for="curve in curves" :key="curve.key" :class="['curve', curve.key]" :d="path(curve)" />
      <line class="base" :x1="LEFT" :x2="WIDTH - RIGHT" :y1="HEIGHT - FOOT" :y2="HEIGHT - FOOT" />
      <g v-for="bar in bars" :key="`${bar.x}`">
        <rect
          v-if="bar.text"
          :class="`bar part${bar.part}`"
          :x="bar.x"
          :y="HEIGHT - FOOT - bar.height"
          width="8"
          :height="bar.height"
        />
        <text
          v-if="bar.text"
          class="number"
          :x="bar.x + 4"
          :y="HEIGHT - FOOT - bar.height - 3"
          text-anchor="middle"
        >
          {{ bar.text }}
        </text>
      </g>
      <text
        v-for="hour in hours"
        :key="hour"
        class="number"
        :x="x(hour)"
        :y="HEIGHT - 9"
        text-anchor="middle"
      >
        {{ hour }}
      </text>
      <text class="number" :x="LEFT - 5" :y="HEIGHT - FOOT - 8" text-anchor="end">mL</text>
      <text class="number" :x="LEFT + 6" :y="TOP + 14">pH (NBS)</text>
      <text class="number" :x="LEFT - 5" :y="HEIGHT - 9" text-anchor="end">h</text>
    </svg>
  </figure>
</template>

<style scoped>
svg {
  width: 100%;
  display: block;
}
.night {
  fill: var(--deep);
  opacity: 0.22;
}
.grade {
  stroke: var(--line);
}
.base {
  stroke: var(--soft);
}
.curve {
  fill: none;
  stroke: var(--ink);
}
.measured {
  stroke: var(--soft);
  stroke-width: 5;
  opacity: 0.35;
}
.now {
  stroke-width: 1.6;
}
.even {
  stroke-width: 1.3;
  stroke-dasharray: 2 3;
}
.best {
  stroke-width: 3.2;
}
.outdoors {
  stroke-width: 1.4;
  stroke-dasharray: 9 4;
}
.bar {
  fill: var(--ink);
}
.part1 {
  fill: none;
  stroke: var(--ink);
}
</style>
