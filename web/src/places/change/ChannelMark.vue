<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

/** Hollow is before, filled is after, both in the target channel. */
const props = defineProps<{ row: Schemas['BeforeAfter'] }>()
const WIDTH = 260
const scale = computed(() => {
  const { band, before, after } = props.row
  const values = [
    before.value,
    ...(after ? [after.value] : []),
    ...(band ? [band.low.value, band.high.value] : []),
    ...props.row.limits.map((limit) => limit.value.value),
  ]
  const low = Math.min(...values)
  const high = Math.max(...values)
  const air = (high - low || Math.abs(high) || 1) * 0.22
  return (value: number) => 8 + ((value - low + air) / (high - low + 2 * air)) * (WIDTH - 16)
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} 34`"
    width="100%"
    height="34"
    preserveAspectRatio="xMidYMid meet"
    aria-hidden="true"
  >
    <line x1="0" :x2="WIDTH" y1="13" y2="13" class="axis" />
    <g v-if="row.band">
      <rect
        :x="scale(row.band.low.value)"
        :width="scale(row.band.high.value) - scale(row.band.low.value)"
        y="4"
        height="18"
        class="channel"
      />
      <g v-for="edge in [row.band.low, row.band.high]" :key="edge.text">
        <line :x1="scale(edge.value)" :x2="scale(edge.value)" y1="2" y2="24" class="edge" />
        <text :x="scale(edge.value)" y="34" text-anchor="middle">{{ edge.text }}</text>
      </g>
    </g>
    <g v-for="limit in row.limits" :key="limit.words" class="limit" :class="{ passed: limit.passed }">
      <path :d="`M${scale(limit.value.value)} 1 v24 m-3 -24 h6`" />
    </g>
    <line
      v-if="row.after"
      :x1="scale(row.before.value)"
      :x2="scale(row.after.value)"
      y1="13"
      y2="13"
      class="move"
    />
    <circle :cx="scale(row.before.value)" cy="13" r="4.6" class="before" />
    <circle v-if="row.after" :cx="scale(row.after.value)" cy="13" r="4.6" class="after" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  min-width: 104px;
}
.axis {
  stroke: var(--line);
  stroke-width: 1.5;
}
.channel {
  fill: var(--shallow);
}
.edge {
  stroke: var(--deep);
}
text {
  font-size: 10.5px;
  font-style: italic;
  fill: var(--soft);
}
.limit path {
  stroke: var(--soft);
  stroke-width: 1.4;
  fill: none;
}
.passed path {
  stroke: var(--magenta);
  stroke-width: 2;
}
.move {
  stroke: var(--ink);
  stroke-width: 2;
}
.before {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.after {
  fill: var(--ink);
}
</style>
