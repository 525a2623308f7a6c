<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = withDefaults(
  defineProps<{ marks: Schemas['StaffMark'][]; days: number; height?: number; width?: number }>(),
  { height: 170, width: 150 },
)
const LEFT = 22
const POST = 13
const top = 10
const foot = computed(() => props.height - 10)
const y = (days: number) => foot.value - (Math.min(days, props.days) / props.days) * (foot.value - top)
const ticks = computed(() => Array.from({ length: props.days + 1 }, (_, day) => day))

/** Names never overlap: each keeps its distance from the one below it. */
const placed = computed(() => {
  let last = Infinity
  return [...props.marks]
    .sort((a, b) => a.days - b.days || b.late_days - a.late_days)
    .map((mark) => {
      const at = Math.min(y(mark.days), last - 13)
      last = at
      return { ...mark, at, from: y(mark.days), late: mark.late_days > 0 || mark.leaves }
    })
    .filter((mark) => mark.at > 4)
})
const words = computed(
  () =>
    'Days ahead: ' +
    (placed.value
      .map(
        (m) =>
          `${m.name} ${m.leaves ? 'leaves its band ' : ''}${m.late_days ? 'late' : m.days ? `in ${m.days} d` : 'today'}`,
      )
      .join(', ') || 'nothing due'),
)
</script>

<template>
  <svg :width="width" :height="height" role="img" :aria-label="words" class="staff">
    <rect :x="LEFT" :y="top" :width="POST" :height="foot - top" rx="1" class="post" />
    <rect :x="LEFT" :y="y(7)" :width="POST" :height="foot - y(7)" class="water" />
    <g v-for="day in ticks" :key="day">
      <line :x1="LEFT" :x2="LEFT + (day % 7 ? 6 : POST)" :y1="y(day)" :y2="y(day)" class="tick" />
      <text v-if="day % 7 === 0" :x="LEFT - 5" :y="y(day) + 4" text-anchor="end" class="number">
        {{ day }}
      </text>
    </g>
    <g v-for="mark in placed" :key="mark.task" :class="{ late: mark.late }">
      <path :d="`M${LEFT + POST} ${mark.from} h4 L${LEFT + POST + 9} ${mark.at}`" class="lead" />
      <text :x="LEFT + POST + 13" :y="mark.at + 4" class="name">{{ mark.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.staff {
  display: block;
  overflow: visible;
}
.post {
  fill: var(--card);
  stroke: var(--ink);
}
.water {
  fill: var(--shallow);
}
.tick,
.lead {
  stroke: var(--ink);
  fill: none;
}
.number {
  font-size: 11px;
  font-style: italic;
  fill: var(--soft);
}
.name {
  font-size: 12px;
  fill: var(--ink);
}
.late .lead {
  stroke: var(--magenta);
}
.late .name {
  fill: var(--magenta);
  font-style: italic;
}
</style>
