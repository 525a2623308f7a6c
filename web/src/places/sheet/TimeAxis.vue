<script setup lang="ts">
import { computed } from 'vue'
import { tickWords } from '../../parts/wall'
import { DAY, LABELS, type TimeWindow } from './timeWindow'

const props = defineProps<{ view: TimeWindow; words: string }>()
const HEIGHT = 34

const ticks = computed(() => {
  const [start, end] = props.view.span.value
  const days = (end - start) / DAY
  const labelled = props.view.scale.value.ticks(
    Math.min(6, Math.max(2, Math.round((props.view.width.value - LABELS) / 110))),
  )
  const fine =
    days > 2 && days <= 70
      ? Array.from({ length: Math.floor(days) + 1 }, (_, i) => Math.ceil(start / DAY) * DAY + i * DAY)
      : []
  return { labelled: labelled.map(Number), fine: fine.filter((at) => at < end), days }
})
const nowX = computed(() => props.view.x(props.view.now.value))
const far = (at: number) => Math.abs(props.view.x(at) - nowX.value) > 34
</script>

<template>
  <svg :width="view.width.value" :height="HEIGHT" aria-hidden="true" class="axis">
    <text x="0" y="27">{{ words }}</text>
    <line :x1="LABELS" :x2="view.width.value - 6" :y1="24" :y2="24" />
    <line v-for="at in ticks.fine" :key="`f${at}`" :x1="view.x(at)" :x2="view.x(at)" y1="24" y2="28" />
    <g v-for="at in ticks.labelled" :key="at">
      <line :x1="view.x(at)" :x2="view.x(at)" y1="24" y2="33" />
      <text v-if="far(at)" :x="view.x(at)" y="18" text-anchor="middle">{{ tickWords(at, ticks.days) }}</text>
    </g>
    <g v-if="nowX > LABELS && nowX < view.width.value">
      <line :x1="nowX" :x2="nowX" y1="20" :y2="HEIGHT" class="now" />
      <text :x="nowX" y="15" text-anchor="middle" class="now-name">now</text>
    </g>
  </svg>
</template>

<style scoped>
.axis {
  display: block;
}
line {
  stroke: var(--soft);
}
text {
  font-size: 12px;
  font-style: italic;
  fill: var(--soft);
}
.now {
  stroke: var(--magenta);
  stroke-width: 1.6;
}
.now-name {
  fill: var(--magenta);
  font-style: normal;
  font-weight: 700;
}
</style>
