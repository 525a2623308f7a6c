<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../api/client'

const props = withDefaults(
  defineProps<{
    marks: Schemas['StaffMark'][]
    days: number
    height?: number
    width?: number
    /** A name leads to the round of its day. */
    opens?: boolean
  }>(),
  { height: 170, width: 150 },
)
const router = useRouter()
const LEFT = 22
const POST = 13
const top = 10
const foot = computed(() => props.height - 10)
const y = (days: number) => foot.value - (Math.min(days, props.days) / props.days) * (foot.value - top)
const ticks = computed(() => Array.from({ length: props.days + 1 }, (_, day) => day))

type Mark = Schemas['StaffMark']
const late = (mark: Mark) => mark.late_days > 0 || !!mark.leaves
/** What a name takes upwards of its line, and downwards with what else there is that day below it. */
const ABOVE = 7
const more = (mark: Mark) => (props.opens ? (mark.more ?? 0) : 0)
const below = (mark: Mark) => (more(mark) ? 19 : 7)
/** A name farther from its day than this cannot be told from its neighbour's. */
const FARTHEST = 20

/** Names from the foot up, none over another; nothing where they do not all fit. */
function layout(marks: Mark[]) {
  let free = props.height
  const found = [...marks]
    .sort((a, b) => a.days - b.days)
    .map((mark) => {
      const at = Math.min(y(mark.days), free - below(mark))
      free = at - ABOVE
      return { ...mark, at, from: y(mark.days), late: late(mark) }
    })
  return free >= 0 && found.every((one) => one.from - one.at <= FARTHEST) ? found : undefined
}
/** As many names as fit: what is late first, then what is nearest. */
const placed = computed(() => {
  const order = [...props.marks].sort((a, b) => Number(late(b)) - Number(late(a)) || a.days - b.days)
  const named: Mark[] = []
  for (const mark of order) if (layout([...named, mark])) named.push(mark)
  return layout(named) ?? []
})
const unnamed = computed(() =>
  props.marks.filter((mark) => !placed.value.some((one) => one.task === mark.task && one.days === mark.days)),
)
const when = (mark: Mark) => (mark.late_days ? 'late' : mark.days ? `in ${mark.days} d` : 'today')
const said = (mark: Mark) =>
  mark.leaves
    ? `${mark.name} leaves its band ${when(mark)}`
    : `${mark.name}${mark.more ? ` and ${mark.more} more` : ''} ${when(mark)}`
const words = computed(
  () => 'Days ahead: ' + (placed.value.map((mark) => said(mark)).join(', ') || 'nothing due'),
)
</script>

<template>
  <svg
    :width="width"
    :height="height"
    :role="opens ? 'group' : 'img'"
    :aria-label="opens ? 'Days ahead' : words"
    class="staff"
  >
    <rect :x="LEFT" :y="top" :width="POST" :height="foot - top" rx="1" class="post" />
    <rect :x="LEFT" :y="y(7)" :width="POST" :height="foot - y(7)" class="water" />
    <g v-for="day in ticks" :key="day">
      <line :x1="LEFT" :x2="LEFT + (day % 7 ? 6 : POST)" :y1="y(day)" :y2="y(day)" class="tick" />
      <text v-if="day % 7 === 0" :x="LEFT - 5" :y="y(day) + 4" text-anchor="end" class="number">
        {{ day }}
      </text>
    </g>
    <circle
      v-for="mark in unnamed"
      :key="mark.days"
      :cx="LEFT + POST"
      :cy="y(mark.days)"
      r="2.5"
      class="dot"
    />
    <g v-for="mark in placed" :key="`${mark.task} ${mark.days}`" :class="{ late: mark.late }">
      <path :d="`M${LEFT + POST} ${mark.from} h4 L${LEFT + POST + 9} ${mark.at}`" class="lead" />
      <component
        :is="opens && mark.day ? 'a' : 'g'"
        :href="opens && mark.day ? `/rota/round?day=${mark.day}` : undefined"
        :aria-label="opens ? said(mark) : undefined"
        @click.prevent="opens && mark.day && router.push({ name: 'round', query: { day: mark.day } })"
      >
        <text :x="LEFT + POST + 13" :y="mark.at + 4" class="name">{{ mark.name }}</text>
        <text v-if="more(mark)" :x="LEFT + POST + 13" :y="mark.at + 16" class="more">
          and {{ mark.more }} more
        </text>
      </component>
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
.more {
  font-size: 11px;
  font-style: italic;
  fill: var(--soft);
}
.dot {
  fill: var(--ink);
}
a {
  cursor: pointer;
}
a:hover .name {
  text-decoration: underline;
}
.late .lead {
  stroke: var(--magenta);
}
.late .name {
  fill: var(--magenta);
  font-style: italic;
}
</style>
