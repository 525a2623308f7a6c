<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

/** A day with the minutes it asks for, against those the keeper has: the line is full at their mark. */
const props = defineProps<{ day: Schemas['RotaDay']; today: boolean }>()
const most = computed(() => Math.max(props.day.minutes, props.day.room, 1))
const full = computed(() => props.day.minutes > props.day.room)
const words = computed(() => {
  if (props.day.away) return props.day.minutes ? `away, ${props.day.minutes} min` : 'away'
  return props.day.minutes ? `${props.day.minutes} of ${props.day.room} min` : `free, ${props.day.room} min`
})
</script>

<template>
  <div class="head">
    <b>{{ today ? 'today' : day.words.slice(0, 3) }}</b>
    <span class="soft date">{{ day.words.slice(4) }}</span>
    <div class="line" aria-hidden="true">
      <span class="work" :class="{ full }" :style="{ width: `${(day.minutes / most) * 100}%` }" />
      <span class="mark" :style="{ left: `${(day.room / most) * 100}%` }" />
    </div>
    <span class="words" :class="full ? 'magenta' : 'soft'">{{ words }}</span>
  </div>
</template>

<style scoped>
.head {
  text-align: left;
  padding: 2px 4px;
  line-height: 1.25;
}
.date {
  margin-left: 5px;
  font-size: 0.85rem;
}
.line {
  position: relative;
  height: 7px;
  margin: 4px 0 2px;
  border-bottom: 1px solid var(--soft);
}
.work {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--deep);
}
.work.full {
  background: repeating-linear-gradient(90deg, var(--magenta) 0 3px, transparent 3px 5px), var(--deep);
}
.mark {
  position: absolute;
  top: -2px;
  bottom: -3px;
  border-left: 2px solid var(--ink);
  margin-left: -2px;
}
.words {
  font-size: 0.8rem;
}
</style>
