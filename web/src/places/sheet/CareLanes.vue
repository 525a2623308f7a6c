<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { wall } from '../../parts/wall'
import { LABELS, type TimeWindow } from './timeWindow'

const props = defineProps<{ lanes: Schemas['CareLane'][]; view: TimeWindow }>()
const ROW = 26
const right = computed(() => props.view.width.value - 6)
const nowX = computed(() => props.view.x(props.view.now.value))
/** Whether a label fits before the next mark. */
const roomAfter = (x: number, next = Infinity) => next - x > 58
const rows = computed(() =>
  props.lanes.map((lane, index) => ({
    ...lane,
    y: index * ROW + ROW / 2 + 4,
    marks: lane.marks
      .map((mark) => ({ ...mark, x: props.view.x(wall(mark.at)) }))
      .filter((mark) => mark.x > LABELS - 2 && mark.x < right.value + 2)
      .sort((a, b) => a.x - b.x)
      .map((mark, place, all) => ({
        ...mark,
        label: roomAfter(mark.x, all[place + 1]?.x) ? mark.label : '',
      })),
  })),
)
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
        <g v-for="(mark, index) in lane.marks" :key="index" :class="mark.state">
          <path
            v-if="mark.state === 'skipped'"
            :d="`M${mark.x - 5} ${lane.y - 5}l10 10m0 -10l-10 10`"
            class="cross"
          >
            <title>{{ mark.words }}</title>
          </path>
          <path
            v-else-if="mark.state === 'happened'"
            :d="`M${mark.x} ${lane.y - 8}l8 8l-8 8l-8 -8z`"
            class="event"
          >
            <title>{{ mark.words }}</title>
          </path>
          <rect v-else :x="mark.x - 6.5" :y="lane.y - 5.5" width="13" height="11" rx="2">
            <title>{{ mark.words }}</title>
          </rect>
          <text v-if="mark.label" :x="mark.x + 11" :y="lane.y + 4" class="label">{{ mark.label }}</text>
        </g>
      </g>
    </svg>
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
svg {
  display: block;
}
.name {
  font-size: 13px;
  fill: var(--ink);
}
.thread {
  stroke: var(--line);
  stroke-width: 1.5;
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
