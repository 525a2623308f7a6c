<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { fieldText, unitRead } from '../../parts/measures'
import {
  dragged,
  type LevelKey,
  type LevelLine,
  levelsOf,
  linesOf,
  pictureOf,
  reservoirOf,
  WIDE,
} from './levels'
import ReservoirPart from './ReservoirPart.vue'

/** Display and sump to scale, with the levels that decide what a failure does: dragged, or moved by the arrow keys. */
const model = defineModel<Schemas['LevelsBody']>({ required: true })
const props = defineProps<{ drawing: Schemas['DrawingShown']; topOff: Schemas['TopOffBody'] }>()
const levels = computed(() => levelsOf(model.value, props.drawing.levels))
const at = computed(() => pictureOf(props.drawing, levels.value))
const lines = computed(() => linesOf(levels.value, at.value))
const low = computed(() => at.value.sump ?? at.value.display)
const reservoir = computed(() => (props.topOff.reservoir_l ? reservoirOf(at.value) : undefined))
const high = computed(
  () =>
    Math.max(
      low.value.y + low.value.height,
      reservoir.value ? reservoir.value.y + reservoir.value.height : 0,
    ) + 26,
)
const into = computed(() => ({ x: low.value.x + low.value.width - 24, y: low.value.y + 10 }))
const REACH = 14
const svg = ref<SVGSVGElement>()
const held = ref<{ key: LevelKey; y: number; value: number }>()
/** While a line is dragged the scale stays as it was. */
const scale = ref(1)

const y = (event: PointerEvent) => {
  const box = svg.value!.getBoundingClientRect()
  return ((event.clientY - box.top) / box.height) * high.value
}
/** The level nearest to the finger: close ones would else lie under each other. */
function take(event: PointerEvent) {
  const box = svg.value!.getBoundingClientRect()
  const x = ((event.clientX - box.left) / box.width) * WIDE
  const near = lines.value
    .filter((line) => x >= line.x && x <= line.x + line.width && Math.abs(line.y - y(event)) <= REACH)
    .sort((one, other) => Math.abs(one.y - y(event)) - Math.abs(other.y - y(event)))[0]
  if (!near) return
  scale.value = at.value.cm
  held.value = { key: near.key, y: y(event), value: levels.value[near.key] ?? 0 }
  svg.value!.setPointerCapture(event.pointerId)
  event.preventDefault()
}
function drag(event: PointerEvent) {
  if (!held.value) return
  const { key, value } = held.value
  model.value[key] = dragged(key, value, (y(event) - held.value.y) / scale.value)
}
function step(line: LevelLine, down: number) {
  model.value[line.key] = dragged(line.key, levels.value[line.key] ?? 0, down)
}
/** Names of one vessel stand side by side, so that close levels do not cover each other. */
const labelX = (line: LevelLine, place: number) =>
  line.x + (line.key === 'pump_cm' ? 6 : line.key === 'rim_cm' ? 40 : 20 + place * 105)
const said = (line: LevelLine) =>
  `${line.name} ${fieldText(levels.value[line.key] ?? 0, 'cm')} ${unitRead('cm')}`
</script>

<template>
  <svg
    ref="svg"
    class="card"
    :viewBox="`0 0 ${WIDE} ${high}`"
    role="group"
    aria-label="Drawing of the tank"
    @pointerdown="take"
    @pointermove="drag"
    @pointercancel="held = undefined"
    @pointerup="held = undefined"
  >
    <rect
      class="water"
      :x="at.display.x"
      :y="at.display.y"
      :width="at.display.width"
      :height="at.display.height"
    />
    <path
      class="glass"
      :d="`M${at.display.x} ${at.display.rim}V${at.display.y + at.display.height}H${at.display.x + at.display.width}V${at.display.rim}`"
    />
    <text :x="at.display.x + 8" :y="at.display.y + at.display.height - 10">display</text>
    <template v-if="at.sump">
      <rect class="water" :x="at.sump.x" :y="at.sump.y" :width="at.sump.width" :height="at.sump.height" />
      <path
        class="glass"
        :d="`M${at.sump.x} ${at.sump.rim}V${at.sump.y + at.sump.height}H${at.sump.x + at.sump.width}V${at.sump.rim}`"
      />
      <path
        v-if="levels.chamber_cm"
        class="wall"
        :d="`M${at.sump.x + at.sump.width - levels.chamber_cm * at.cm} ${at.sump.y + 6}V${at.sump.y + at.sump.height}`"
      />
      <text :x="at.sump.x + 8" :y="at.sump.y + at.sump.height - 10">sump</text>
      <path
        class="pipe"
        :d="`M${at.sump.x + at.sump.width - 12} ${at.sump.y + at.sump.height - 8}V${at.display.y + at.display.height + 18}H${at.display.x + at.display.width + 14}V${at.display.y - 8}H${at.display.x + at.display.width - 16}V${at.display.y + (levels.outlet_cm ?? 2) * at.cm}`"
      />
    </template>
    <ReservoirPart v-if="reservoir" :top-off="topOff" :at="reservoir" :into="into" />
    <g
      v-for="line in lines"
      :key="line.key"
      class="level"
      tabindex="0"
      role="slider"
      :aria-label="line.name"
      :aria-valuenow="levels[line.key] ?? 0"
      :aria-valuetext="said(line)"
      aria-valuemin="0"
      aria-valuemax="200"
      aria-orientation="vertical"
      @keydown.up.prevent="step(line, -0.5)"
      @keydown.down.prevent="step(line, 0.5)"
    >
      <rect class="grip" :x="line.x" :y="line.y - 9" :width="line.width" height="18" />
      <line :x1="line.x" :x2="line.x + line.width" :y1="line.y" :y2="line.y" />
    </g>
    <g v-for="(line, place) in lines" :key="`${line.key} name`" class="names" aria-hidden="true">
      <text :x="labelX(line, place)" :y="line.y - 3">
        {{ said(line) }}
      </text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: auto;
  touch-action: none;
  padding: 4px;
}
.water {
  fill: var(--shallow);
}
.glass,
.wall,
.pipe {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.wall {
  stroke-width: 1;
}
.pipe {
  stroke: var(--deep);
  stroke-width: 5;
  stroke-linejoin: round;
}
text {
  fill: var(--ink);
  font-size: 12px;
}
.names text {
  font-size: 12px;
  font-style: italic;
}
.level line {
  stroke: var(--magenta);
  stroke-width: 1.5;
  stroke-dasharray: 6 4;
}
.grip {
  fill: transparent;
  cursor: ns-resize;
}
.level:focus-visible .grip {
  stroke: var(--ink);
  stroke-width: 2;
}
.level:focus {
  outline: none;
}
</style>
