<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { fieldText, unitRead } from '../../parts/measures'
import type { Box } from './levels'

/** The top-off on the drawing: its reservoir, what runs from it, and a line that fills it by itself. */
const props = defineProps<{ topOff: Schemas['TopOffBody']; at: Box; into: { x: number; y: number } }>()
const litres = (value: unknown) =>
  typeof value === 'number' ? `${fieldText(value, 'L')} ${unitRead('L')}` : ''
const held = computed(() => litres(props.topOff.reservoir_l))
const flow = computed(() => (props.topOff.pump_l_h ? `${litres(props.topOff.pump_l_h)}/h` : ''))
const line = computed(() => (props.topOff.line_l_h ? `${litres(props.topOff.line_l_h)}/h` : ''))
const low = computed(() => props.at.y + props.at.height)
</script>

<template>
  <g
    role="img"
    :aria-label="`Reservoir, ${held}${flow && `, its pump ${flow}`}${line && `, filled by ${line}`}`"
  >
    <rect class="water" :x="at.x" :y="at.y + 14" :width="at.width" :height="at.height - 14" />
    <path class="glass" :d="`M${at.x} ${at.y}V${low}H${at.x + at.width}V${at.y}`" />
    <path class="thin" :d="`M${at.x + 14} ${low - 8}V${at.y - 12}H${into.x}V${into.y}`" />
    <path
      v-if="line"
      class="thin"
      :d="`M${at.x + at.width + 16} ${at.y - 12}H${at.x + at.width - 14}V${at.y + 8}`"
    />
    <text :x="at.x + 24" :y="low - 24">{{ topOff.limewater ? 'limewater' : 'reservoir' }}</text>
    <text :x="at.x + 24" :y="low - 8">{{ held }}</text>
    <text v-if="flow" :x="at.x + 18" :y="at.y - 16">{{ flow }}</text>
  </g>
</template>

<style scoped>
.water {
  fill: var(--shallow);
}
.glass {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.thin {
  fill: none;
  stroke: var(--deep);
  stroke-width: 2;
  stroke-dasharray: 2 3;
}
text {
  font-size: 12px;
  fill: var(--ink);
}
</style>
