<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

/** A parameter under two routines: A is drawn in full, B dashed; the target band is the channel behind them. */
const props = defineProps<{ row: Schemas['RoutineRow'] }>()
const [WIDTH, HEIGHT] = [250, 74]
const scale = computed(() => {
  const { first, second, band } = props.row
  const values = [...first.levels, ...second.levels, ...(band ? [band.low.value, band.high.value] : [])]
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const air = (high - low || Math.abs(high) || 1) * 0.08
  return (value: number) => HEIGHT - 4 - ((value - low + air) / (high - low + 2 * air)) * (HEIGHT - 8)
})
const path = (levels: number[]) =>
  levels
    .map(
      (level, day) =>
        `${day ? 'L' : 'M'}${((day / (levels.length - 1)) * WIDTH).toFixed(1)} ${scale.value(level).toFixed(1)}`,
    )
    .join('')
const words = computed(
  () =>
    `${props.row.name} over three months: A settles at ${props.row.first.settled}, B at ${props.row.second.settled} ${props.row.unit}`,
)
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ row.name }}</b> <span class="unit">{{ row.unit }}</span>
      <span class="soft end">
        settles at A <b :class="{ magenta: row.first.leaves }">{{ row.first.settled }}</b>, B
        <b :class="{ magenta: row.second.leaves }">{{ row.second.settled }}</b>
      </span>
    </figcaption>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      width="100%"
      :height="HEIGHT"
      preserveAspectRatio="none"
      role="img"
      :aria-label="words"
    >
      <rect x="0" y="0" :width="WIDTH" :height="HEIGHT" class="ground" />
      <rect
        v-if="row.band"
        x="0"
        :y="scale(row.band.high.value)"
        :width="WIDTH"
        :height="scale(row.band.low.value) - scale(row.band.high.value)"
        class="channel"
      />
      <path :d="path(row.first.levels)" class="line" />
      <path :d="path(row.second.levels)" class="line dashed" />
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
figcaption {
  display: flex;
  gap: 6px;
  align-items: baseline;
  font-size: 0.85rem;
}
.end {
  margin-left: auto;
  font-size: 0.8rem;
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.dashed {
  stroke-dasharray: 4 3;
}
</style>
