<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, toRef } from 'vue'
import type { Schemas } from '../../api/client'
import { wall } from '../../parts/wall'
import { shapePath } from './shapes'
import { domain, drawn, edges, legendOf } from './stripScale'
import { DAY, LABELS, type TimeWindow } from './timeWindow'
import { useValueAt } from './useValueAt'

const props = defineProps<{
  system: number
  strip: Schemas['Strip']
  view: TimeWindow
  height: number
  probes?: Schemas['ProbeStretch'][]
  tried?: Schemas['TriedStrip']
}>()
const TOP = 6
const FOOT = props.height - 22
const HAIR = 3 * DAY

const right = computed(() => props.view.width.value - 6)
const ahead = computed(() => props.tried?.expected ?? props.strip.expected)
const shown = computed(() => domain(props.strip, props.probes ?? [], ahead.value, props.view.span.value))
const y = computed(() => scaleLinear().domain(shown.value).range([FOOT, TOP]))
const value = useValueAt(toRef(props, 'strip'), ahead, props.view, () => props.system)
const spot = computed(() => value.spot(y.value, right.value))
const numbers = computed(() => edges(props.strip, shown.value))
const x = (iso: string) => props.view.x(wall(iso))
const nowX = computed(() => props.view.x(props.view.now.value))
const clip = computed(() => `clip-${props.strip.parameter}`)

const path = computed(
  () =>
    line<Schemas['Corner']>()
      .x((corner) => x(corner.at))
      .y((corner) => y.value(corner.value))(props.strip.line) ?? '',
)
type Expected = Schemas['ExpectedPoint']
const course = (points: Expected[]) =>
  line<Expected>()
    .x((point) => x(point.at))
    .y((point) => y.value(point.value))(points) ?? ''
const between = (points: Expected[]) =>
  area<Expected>()
    .x((point) => x(point.at))
    .y0((point) => y.value(point.low))
    .y1((point) => y.value(point.high))(points) ?? ''
const spread = computed(() => between(ahead.value))
const plannedArea = computed(() => between(props.strip.planned))
const written = computed(() =>
  (props.probes ?? []).flatMap((probe) => drawn(probe, (at) => props.view.x(at), y.value)),
)
/** Very many marks are drawn small: their course matters then, not each of them. */
const crowded = computed(() => {
  const [start, end] = props.view.span.value
  const inside = props.strip.marks.filter((mark) => wall(mark.at) > start && wall(mark.at) < end).length
  return inside > (right.value - LABELS) / 9 || end - start > 120 * HAIR
})
const marks = computed(() =>
  props.strip.marks.map((mark) => ({
    ...mark,
    d: shapePath(
      props.strip.instruments.indexOf(mark.instrument),
      x(mark.at),
      y.value(mark.value),
      crowded.value ? 0.55 : 1,
    ),
  })),
)
const crossing = computed(() => {
  const leaves = props.tried ? props.tried.crossing : props.strip.crossing
  if (!leaves) return undefined
  const at = x(leaves.at)
  return {
    at,
    words: leaves.words,
    between: 'between' in leaves ? leaves.between : '',
    left: at > right.value - 140,
  }
})
/** Which shape is which instrument, set from the right end of the strip's foot line. */
const narrow = computed(() => props.view.width.value < 560)
const legend = computed(() =>
  narrow.value ? [] : legendOf(props.strip.instruments, props.probes ?? [], right.value),
)
const summary = computed(
  () =>
    `${props.strip.name} ${props.strip.present.text} ${props.strip.present.unit}, ${props.strip.verdict.words}; ` +
    `${props.strip.marks.length} readings; ${props.strip.drift}${props.strip.crossing ? `; ${props.strip.crossing.words}` : ''}`,
)
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ strip.name }}</b>
      <span class="value"
        >{{ strip.present.text }} <span class="unit">{{ strip.present.unit }}</span></span
      >
      <i :class="strip.verdict.out ? 'magenta' : 'soft'">{{ strip.verdict.words }}</i>
    </figcaption>
    <svg
      :width="view.width.value"
      :height="height"
      role="application"
      :aria-label="`${summary}. Arrow keys go from reading to reading, Enter opens one.`"
      tabindex="0"
      @pointermove="value.point($event.offsetX)"
      @pointerdown="value.point($event.offsetX)"
      @pointerleave="value.clear"
      @keydown="value.pressed"
      @blur="value.clear"
    >
      <clipPath :id="clip">
        <rect :x="LABELS" :y="0" :width="Math.max(0, right - LABELS)" :height="FOOT" />
      </clipPath>
      <rect :x="LABELS" :y="TOP" :width="Math.max(0, right - LABELS)" :height="FOOT - TOP" class="ground" />
      <g v-if="strip.band" :clip-path="`url(#${clip})`">
        <rect
          :x="LABELS"
          :y="y(strip.band.high.value)"
          :width="Math.max(0, right - LABELS)"
          :height="y(strip.band.low.value) - y(strip.band.high.value)"
          class="channel"
        />
      </g>
      <g>
        <g v-for="edge in numbers" :key="edge.text">
          <line
            :x1="LABELS"
            :x2="right"
            :y1="y(edge.value)"
            :y2="y(edge.value)"
            :class="edge.band ? 'edge' : 'hair'"
          />
          <text :x="LABELS - 6" :y="y(edge.value) + 4" text-anchor="end" class="number">{{ edge.text }}</text>
        </g>
      </g>
      <g :clip-path="`url(#${clip})`">
        <path v-if="strip.planned.length" :d="plannedArea" class="planned">
          <title>What your plan expected</title>
        </path>
        <path v-if="strip.planned.length" :d="course(strip.planned)" class="planned-line" />
        <path :d="spread" class="spread" />
        <g v-for="(piece, index) in written" :key="index">
          <path :d="piece.between" class="between" />
          <path :d="piece.mean" class="written" />
        </g>
        <path :d="path" class="past" />
        <path v-if="tried" :d="course(strip.expected)" class="stands" />
        <path :d="course(ahead)" class="ahead" :class="{ tried }" />
        <line v-if="crossing" :x1="crossing.at" :x2="crossing.at" :y1="TOP" :y2="FOOT" class="crossing" />
        <path
          v-for="mark in marks"
          :key="mark.at + mark.instrument"
          :d="mark.d"
          class="mark"
          @click="value.open"
        >
          <title>{{ mark.text }}, {{ mark.when }}, {{ mark.instrument }}</title>
        </path>
        <g v-if="spot" class="spot">
          <line :x1="spot.at" :x2="spot.at" :y1="TOP" :y2="FOOT" />
          <circle :cx="spot.at" :cy="spot.y" r="6" />
        </g>
      </g>
      <line v-if="nowX > LABELS && nowX < right" :x1="nowX" :x2="nowX" y1="0" :y2="height" class="now" />
      <text
        v-if="crossing && crossing.at > LABELS && crossing.at < right"
        :x="crossing.at + (crossing.left ? -5 : 5)"
        :y="TOP + 12"
        :text-anchor="crossing.left ? 'end' : 'start'"
        class="words"
      >
        {{ crossing.words }}
        <title>{{ crossing.between }}</title>
      </text>
      <text :x="narrow ? 0 : LABELS" :y="height - 6" class="drift">{{ strip.drift }}</text>
      <g v-for="(item, index) in legend" :key="item.name">
        <path v-if="item.probe" :d="`M${item.x - 6} ${height - 10}h12`" class="written" />
        <path v-else :d="shapePath(index, item.x, height - 10)" class="mark" />
        <text :x="item.x + 10" :y="height - 6" class="drift">{{ item.name }}</text>
      </g>
      <text
        v-if="spot"
        :x="spot.at + (spot.left ? -9 : 9)"
        :y="FOOT - 6"
        :text-anchor="spot.left ? 'end' : 'start'"
        class="said"
      >
        {{ spot.words }}
      </text>
    </svg>
    <span class="visually-hidden" aria-live="polite">{{ spot?.words }}</span>
  </figure>
</template>

<style scoped>
figure {
  position: relative;
}
figcaption {
  position: absolute;
  left: 0;
  top: 22px;
  width: 92px;
  display: flex;
  flex-direction: column;
  line-height: 1.2;
  font-size: 0.9rem;
}
figcaption i {
  font-size: 0.8rem;
}
.value {
  font-size: 1.25rem;
  font-weight: 600;
}
.value .unit {
  font-size: 0.8rem;
}
svg {
  display: block;
}
.edge {
  stroke: var(--deep);
}
.past,
.ahead {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.ahead {
  stroke-dasharray: 5 4;
}
.stands {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 2 4;
}
.planned {
  fill: var(--sand);
  opacity: 0.35;
}
.planned-line {
  fill: none;
  stroke: var(--sand);
  stroke-width: 2.5;
}
.ahead.tried {
  stroke-width: 2.4;
}
.between {
  fill: var(--sand);
  opacity: 0.4;
}
.written {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.1;
}
.hair {
  stroke: var(--line);
}
.mark {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.mark {
  cursor: pointer;
}
.spot line {
  stroke: var(--soft);
  stroke-dasharray: 1 3;
}
.spot circle {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.said {
  font-size: 12.5px;
  font-weight: 600;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--card);
  stroke-width: 5px;
}
.now {
  stroke: var(--magenta);
  stroke-width: 1.6;
}
.crossing {
  stroke: var(--magenta);
  stroke-dasharray: 2 3;
}
.words {
  fill: var(--magenta);
  font-style: italic;
  font-size: 12px;
}
.drift {
  font-size: 11.5px;
  font-style: italic;
  fill: var(--soft);
}
</style>
