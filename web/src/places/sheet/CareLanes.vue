<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { dayWords, isoDay, wall } from '../../parts/wall'
import { spansOf } from './laneSpans'
import { DAY, LABELS, type TimeWindow } from './timeWindow'
import type { CareMark, Try } from './useTry'

const props = defineProps<{ lanes: Schemas['CareLane'][]; view: TimeWindow; plan: Try; chosen?: CareMark }>()
const emit = defineEmits<{ choose: [mark: CareMark] }>()
const ROW = 26
const right = computed(() => props.view.width.value - 6)
const nowX = computed(() => props.view.x(props.view.now.value))
const today = computed(() => isoDay(props.view.now.value))
/** Whether a label fits before the next mark. */
const roomAfter = (x: number, next = Infinity) => next - x > 58
const moved = computed(() => props.plan.edit.value?.moved)
const same = (one: CareMark, other?: CareMark) =>
  !!other && one.task === other.task && one.due === other.due && one.step_id === other.step_id
/** Where a mark stands: on the day that is tried while it is moved. */
const placeOf = (mark: CareMark) =>
  wall(mark.at) +
  (same(mark, moved.value?.mark) ? Date.parse(moved.value!.day) - Date.parse(mark.at.slice(0, 10)) : 0)
const rows = computed(() =>
  props.lanes.map((lane, index) => ({
    ...lane,
    y: index * ROW + ROW / 2 + 4,
    spans: spansOf(lane, props.view, right.value),
    marks: lane.marks
      .map((mark) => ({ mark, x: props.view.x(placeOf(mark)) }))
      .filter(({ x }) => x > LABELS - 2 && x < right.value + 2)
      .sort((a, b) => a.x - b.x)
      .map(({ mark, x }, place, all) => ({
        mark,
        x,
        label: roomAfter(x, all[place + 1]?.x) ? mark.label : '',
        open: !!mark.due,
      })),
  })),
)
/** Over months the marks stand close: they are drawn thin. */
const half = computed(() => {
  const [start, end] = props.view.span.value
  return Math.min(6.5, Math.max(1.2, (600 * DAY) / (end - start)))
})
const open = computed(() =>
  rows.value.flatMap((lane) => {
    let last = -Infinity
    const apart = (x: number) => x - last >= 27 && ((last = x), true)
    return lane.marks.filter((each) => each.open && apart(each.x)).map((each) => ({ ...each, y: lane.y }))
  }),
)

let held: { mark: CareMark; from: number; far: boolean } | undefined
function take(event: PointerEvent, mark: CareMark) {
  if (event.button !== 0) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  held = { mark, from: event.clientX, far: false }
}
function drag(event: PointerEvent) {
  if (!held) return
  held.far ||= Math.abs(event.clientX - held.from) > 3
  if (!held.far) return
  const shift = props.view.at(event.clientX) - props.view.at(held.from)
  attempt(held.mark, wall(held.mark.at) + Math.round(shift / DAY) * DAY)
}
function drop() {
  const { mark, far } = held ?? {}
  held = undefined
  if (!mark) return
  if (!far) emit('choose', mark)
  else if (moved.value) void props.plan.move(mark, moved.value.day)
}
function attempt(mark: CareMark, at: number) {
  const day = isoDay(Math.max(at, Date.parse(today.value)))
  if (same(mark, moved.value?.mark) && moved.value?.day === day) return
  props.plan.attempt({ moved: { mark, day } })
}
function key(event: KeyboardEvent, mark: CareMark) {
  const step = { ArrowLeft: -DAY, ArrowRight: DAY }[event.key]
  if (step) attempt(mark, placeOf(mark) + step)
  else if (event.key === 'Enter' && same(mark, moved.value?.mark))
    void props.plan.move(mark, moved.value!.day)
  else if (event.key === 'Enter' || event.key === ' ') emit('choose', mark)
  else if (event.key === 'Escape') props.plan.leave()
  else if (event.key === 'Delete') void props.plan.takeOff(mark)
  else return
  event.preventDefault()
}
const spoken = (mark: CareMark) =>
  `${mark.words}${same(mark, moved.value?.mark) ? `, tried on ${dayWords(placeOf(mark))}: Enter saves it` : ''}`
const summary = computed(() =>
  props.lanes
    .map((lane) => {
      const ahead = lane.marks.filter((mark) => !['done', 'skipped'].includes(mark.state))
      return `${lane.name}: ${ahead.length ? ahead.map((mark) => mark.words).join('; ') : 'nothing due'}`
    })
    .join('. '),
)
</script>

<template>
  <figure v-if="lanes.length">
    <svg
      :width="view.width.value"
      :height="lanes.length * ROW + 10"
      role="img"
      :aria-label="`Care. ${summary}`"
    >
      <line
        v-if="nowX > LABELS && nowX < right"
        :x1="nowX"
        :x2="nowX"
        y1="0"
        :y2="lanes.length * ROW + 4"
        class="now"
      />
      <g v-for="lane in rows" :key="lane.task">
        <text x="0" :y="lane.y + 4" class="name">{{ lane.name }}</text>
        <line :x1="LABELS" :x2="right" :y1="lane.y" :y2="lane.y" class="thread" />
        <template v-for="span in lane.spans" :key="span.start">
          <g v-if="span.width > 0" :class="{ running: span.now }" class="phase">
            <rect :x="span.x" :y="lane.y - 9" :width="span.width" height="18" rx="3">
              <title>{{ span.words }}</title>
            </rect>
          </g>
        </template>
        <g v-for="({ mark, x, label }, index) in lane.marks" :key="index" :class="mark.state">
          <path
            v-if="mark.state === 'skipped'"
            :d="`M${x - 5} ${lane.y - 5}l10 10m0 -10l-10 10`"
            class="cross"
          >
            <title>{{ mark.words }}</title>
          </path>
          <path
            v-else-if="mark.state === 'happened'"
            :d="`M${x} ${lane.y - 8}l8 8l-8 8l-8 -8z`"
            class="event"
          >
            <title>{{ mark.words }}</title>
          </path>
          <rect v-else :x="x - half" :y="lane.y - 5.5" :width="2 * half" height="11" :rx="half / 3">
            <title>{{ mark.words }}</title>
          </rect>
          <text v-if="label" :x="x + 11" :y="lane.y + 4" class="label">{{ label }}</text>
        </g>
      </g>
    </svg>
    <button
      v-for="{ mark, x, y } in open"
      :key="`${mark.task} ${mark.due} ${mark.step_id}`"
      type="button"
      class="grip no-print"
      :class="{ chosen: same(mark, chosen), tried: same(mark, moved?.mark) }"
      :style="{ left: `${x - 13}px`, top: `${y - 12}px` }"
      :aria-label="spoken(mark)"
      :title="mark.words"
      aria-keyshortcuts="ArrowLeft ArrowRight Enter Escape Delete"
      @pointerdown.stop="take($event, mark)"
      @pointermove.stop="drag"
      @pointerup.stop="drop"
      @keydown="key($event, mark)"
    />
    <figcaption class="key">
      <span><b>Key</b></span>
      <span><i class="box done" /> done</span>
      <span><i class="box due" /> due</span>
      <span><i class="box planned" /> planned</span>
      <span><i class="box late" /> late</span>
      <span><i class="diamond" /> happened</span>
      <span><i class="box channel" /> target channel</span>
      <span><i class="dash" /> expected, with its spread</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  position: relative;
}
svg {
  display: block;
}
.grip {
  position: absolute;
  width: 26px;
  height: 24px;
  border-radius: 4px;
  border: 1.6px solid transparent;
  background: none;
  cursor: grab;
  touch-action: none;
}
.grip:hover,
.grip.chosen {
  border-color: var(--ink);
}
.grip.tried {
  border-color: var(--magenta);
  cursor: grabbing;
}
.name {
  font-size: 13px;
  fill: var(--ink);
}
.thread {
  stroke: var(--line);
  stroke-width: 1.5;
}
.phase rect {
  fill: var(--shallow);
  stroke: var(--deep);
}
.phase:not(.running) rect {
  fill: none;
}
.now {
  stroke: var(--magenta);
  stroke-width: 1.6;
}
.done rect {
  fill: var(--sand);
}
.due rect,
.late rect {
  fill: var(--card);
  stroke: var(--ink);
}
.planned rect {
  fill: var(--deep);
  stroke: var(--ink);
}
.late rect {
  stroke: var(--magenta);
  stroke-width: 1.6;
}
.cross {
  stroke: var(--soft);
  stroke-width: 1.6;
}
.event {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.label {
  font-size: 12px;
  fill: var(--ink);
}
.late .label {
  fill: var(--magenta);
  font-style: italic;
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding: 6px 0 4px;
  font-size: 0.8rem;
  color: var(--soft);
}
.box {
  display: inline-block;
  width: 13px;
  height: 11px;
  border-radius: 2px;
  vertical-align: -1px;
}
.box.done {
  background: var(--sand);
}
.box.due {
  background: var(--card);
  border: 1px solid var(--ink);
}
.box.planned {
  background: var(--deep);
  border: 1px solid var(--ink);
}
.box.late {
  background: var(--card);
  border: 1.6px solid var(--magenta);
}
.diamond {
  display: inline-block;
  width: 10px;
  height: 10px;
  border: 1.6px solid var(--ink);
  transform: rotate(45deg);
  margin: 0 3px;
}
.box.channel {
  background: var(--shallow);
  border-block: 1px solid var(--deep);
  width: 22px;
}
.dash {
  display: inline-block;
  width: 26px;
  border-top: 2px dashed var(--ink);
  vertical-align: 4px;
}
</style>
