<script setup lang="ts">
import { scaleLinear, scaleUtc } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { tickWords, wall } from '../../parts/wall'
import { LETTERS } from './useWhatIf'

const props = defineProps<{ strip: Schemas['ComparedStrip']; width: number }>()
const HEIGHT = 132
const [LEFT, RIGHT, TOP, FOOT] = [142, 26, 6, HEIGHT - 20]
type Point = Schemas['CoursePoint']

const all = computed(() => props.strip.courses.flatMap((course) => course.points))
const span = computed(() => [wall(all.value[0]!.at), wall(all.value.at(-1)!.at)] as [number, number])
const x = computed(() =>
  scaleUtc()
    .domain(span.value)
    .range([LEFT, props.width - RIGHT]),
)
const y = computed(() => {
  const values = all.value.map((point) => point.value)
  if (props.strip.band) values.push(props.strip.band.low.value, props.strip.band.high.value)
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const air = (high - low) * 0.12 || Math.abs(high) * 0.02 || 1
  return scaleLinear()
    .domain([Math.max(0, low - air), high + air])
    .range([FOOT, TOP])
})
const lines = computed(() =>
  props.strip.courses.map(
    (course) =>
      line<Point>()
        .x((point) => x.value(wall(point.at)))
        .y((point) => y.value(point.value))(course.points) ?? '',
  ),
)
const spread = computed(
  () =>
    area<Point>()
      .x((point) => x.value(wall(point.at)))
      .y0((point) => y.value(point.low))
      .y1((point) => y.value(point.high))(props.strip.courses[0]!.points) ?? '',
)
/** Letters at the ends of the lines, kept apart. */
const letters = computed(() => {
  const placed = props.strip.courses
    .map((course, place) => ({ letter: LETTERS[place]!, y: y.value(course.points.at(-1)!.value) }))
    .sort((a, b) => a.y - b.y)
  placed.forEach((each, i) => i && (each.y = Math.max(each.y, placed[i - 1]!.y + 12)))
  const over = Math.max(0, (placed.at(-1)?.y ?? 0) - (FOOT - 2))
  return placed.map((each) => ({ ...each, y: each.y - over }))
})
const ticks = computed(() => x.value.ticks(6).map(Number))
const days = computed(() => (span.value[1] - span.value[0]) / 86_400_000)
const summary = computed(
  () =>
    `${props.strip.name}: ` +
    props.strip.courses
      .map(
        (course, i) =>
          `${LETTERS[i]} from ${course.lowest} to ${course.highest}${course.days_out ? `, ${course.days_out} days outside its band` : ''}`,
      )
      .join('; '),
)
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ strip.name }}</b> <span class="unit">{{ strip.unit }}</span>
    </figcaption>
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="summary">
      <clipPath :id="`what-${strip.parameter}`">
        <rect :x="LEFT" :y="TOP" :width="Math.max(0, width - LEFT - RIGHT)" :height="FOOT - TOP" />
      </clipPath>
      <rect
        :x="LEFT"
        :y="TOP"
        :width="Math.max(0, width - LEFT - RIGHT)"
        :height="FOOT - TOP"
        class="ground"
      />
      <g v-if="strip.band">
        <rect
          :x="LEFT"
          :y="y(strip.band.high.value)"
          :width="Math.max(0, width - LEFT - RIGHT)"
          :height="y(strip.band.low.value) - y(strip.band.high.value)"
          class="channel"
        />
        <text
          v-for="edge in [strip.band.low, strip.band.high]"
          :key="edge.text"
          :x="LEFT - 6"
          :y="y(edge.value) + 4"
          text-anchor="end"
          class="number"
        >
          {{ edge.text }}
        </text>
      </g>
      <g :clip-path="`url(#what-${strip.parameter})`">
        <path :d="spread" class="spread" />
        <path v-for="(path, place) in lines" :key="place" :d="path" :class="`plan-${place}`" />
      </g>
      <text v-for="each in letters" :key="each.letter" :x="width - RIGHT + 5" :y="each.y + 4" class="letter">
        {{ each.letter }}
      </text>
      <text v-for="at in ticks" :key="at" :x="x(at)" :y="HEIGHT - 5" text-anchor="middle" class="number">
        {{ tickWords(at, days) }}
      </text>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  position: relative;
}
figcaption {
  position: absolute;
  left: 0;
  top: 34px;
  font-size: 0.9rem;
}
.unit {
  font-size: 0.8rem;
  color: var(--soft);
}
svg {
  display: block;
}
.letter {
  font-size: 13px;
  font-weight: 700;
  fill: var(--ink);
}
</style>
