<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** How much is left, on a graduated scale: full at the left end, used up at the right. */
defineProps<{ lives: Schemas['LifeShown'][] }>()
</script>

<template>
  <div>
    <p v-if="!lives.length" class="soft small">nothing counted yet</p>
    <div v-for="(life, number) in lives" :key="life.words" class="life" :class="{ first: number === 0 }">
      <svg v-if="number === 0" viewBox="0 0 200 16" preserveAspectRatio="none" aria-hidden="true">
        <rect class="left" :x="0" y="3" :width="2 * life.left" height="9" />
        <line class="base" x1="0" y1="12" x2="200" y2="12" />
        <line
          v-for="tick in 5"
          :key="tick"
          class="tick"
          :x1="(tick - 1) * 50"
          :x2="(tick - 1) * 50"
          y1="6"
          y2="16"
        />
        <line class="level" :x1="2 * life.left" :x2="2 * life.left" y1="0" y2="16" />
      </svg>
      <span>{{ life.left }} % left</span>
      <span class="soft">, {{ life.words }}</span>
    </div>
  </div>
</template>

<style scoped>
.life {
  font-size: 0.86rem;
}
.life.first {
  font-size: 1rem;
}
svg {
  display: block;
  width: 100%;
  height: 14px;
}
.left {
  fill: var(--shallow);
}
.base,
.tick {
  stroke: var(--soft);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.level {
  stroke: var(--ink);
  stroke-width: 3;
  vector-effect: non-scaling-stroke;
}
.small {
  font-size: 0.86rem;
}
</style>
