<script setup lang="ts">
import { scaleLinear, scaleUtc } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { tickWords, wall } from '../../parts/wall'

/** What is expected of a parameter with a remedy and without it, on its band. */
const props = defineProps<{ course: Schemas['CourseShown'] }>()
const [WIDTH, HEIGHT, LEFT, RIGHT, TOP, FOOT] = [640, 190, 52, 96, 10, 168]
type Point = Schemas['RemedyCoursePoint']
const all = computed(() => [...props.course.withit, ...props.course.without])
const span = computed(
  () => [wall(all.value[0]!.at), wall(props.course.withit.at(-1)!.at)] as [number, number],
)
const x = computed(() =>
  scaleUtc()
    .domain(span.value)
    .range([LEFT, WIDTH - RIGHT]),
)
const y = computed(() => {
  const values = all.value.flatMap((point) => [point.low, point.high])
  if (props.course.band) values.push(props.course.band.low.value, props.course.band.high.value)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const air = (high - low) * 0.08 || 1
  return scaleLinear()
    .domain([Math.max(0, low - air), high + air])
    .range([FOOT, TOP])
})
const path = (points: Point[]) =>
  line<Point>()
    .x((point) => x.value(wall(point.at)))
    .y((point) => y.value(point.value))(points) ?? ''
const spread = computed(
  () =>
    area<Point>()
      .x((point) => x.value(wall(point.at)))
      .y0((point) => y.value(point.low))
      .y1((point) => y.value(point.high))(props.course.withit) ?? '',
)
const ends = computed(() => {
  const withit = y.value(props.course.withit.at(-1)!.value)
  if (!props.course.without.length) return [{ words: 'as planned', y: withit + 4 }]
  const without = y.value(props.course.without.at(-1)!.value)
  const apart = Math.abs(withit - without) < 14 ? (withit <= without ? -7 : 7) : 0
  return [
    { words: 'with it', y: withit + 4 + apart },
    { words: 'without', y: without + 4 - apart },
  ]
})
const ticks = computed(() => x.value.ticks(5).map(Number))
const days = computed(() => (span.value[1] - span.value[0]) / 86_400_000)
const number = (value: number) => value.toFixed(props.course.decimals)
const summary = computed(
  () =>
    `${props.course.name}: ` +
    ends.value
      .map((end, place) => {
        const line = place ? props.course.without : props.course.withit
        return `${end.words} ${number(line.at(-1)!.value)} ${props.course.unit}`
      })
      .join(', '),
)
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ course.name }}</b> <span class="unit">{{ course.unit }}</span>
      <span class="soft"> expected, with its 80 % range</span>
    </figcaption>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="summary">
      <rect :x="LEFT" :y="TOP" :width="WIDTH - LEFT - RIGHT" :height="FOOT - TOP" class="ground" />
      <template v-if="course.band">
        <rect
          :x="LEFT"
          :y="y(course.band.high.value)"
          :width="WIDTH - LEFT - RIGHT"
          :height="Math.max(0, y(course.band.low.value) - y(course.band.high.value))"
          class="channel"
        />
        <text
          v-for="edge in [course.band.low, course.band.high]"
          :key="edge.text"
          :x="LEFT - 6"
          :y="y(edge.value) + 4"
          text-anchor="end"
          class="number"
        >
          {{ edge.text }}
        </text>
      </template>
      <template v-if="course.aim !== null">
        <line class="aim" :x1="LEFT" :x2="WIDTH - RIGHT" :y1="y(course.aim)" :y2="y(course.aim)" />
        <text :x="LEFT - 6" :y="y(course.aim) + 4" text-anchor="end" class="number strong">
          {{ number(course.aim) }}
        </text>
      </template>
      <path :d="spread" class="spread" />
      <path :d="path(course.without)" class="without" />
      <path :d="path(course.withit)" class="withit" />
      <text v-for="end in ends" :key="end.words" :x="WIDTH - RIGHT + 6" :y="end.y" class="number">
        {{ end.words }}
      </text>
      <text v-for="at in ticks" :key="at" :x="x(at)" :y="HEIGHT - 6" text-anchor="middle" class="number">
        {{ tickWords(at, days) }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 720px;
  height: auto;
}
.ground {
  fill: var(--card);
  stroke: var(--line);
}
.channel {
  fill: var(--shallow);
}
.spread {
  fill: var(--deep);
  opacity: 0.28;
}
.withit {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.without {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.6;
  stroke-dasharray: 5 4;
}
.aim {
  stroke: var(--soft);
  stroke-width: 1;
  stroke-dasharray: 1 3;
}
.number {
  font-size: 12px;
  fill: var(--soft);
  font-variant-numeric: tabular-nums;
}
.strong {
  fill: var(--ink);
  font-weight: 600;
}
</style>
