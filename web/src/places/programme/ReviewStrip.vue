<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { BASE } from '../../parts/example'

/** The looks so far, side by side through the weeks, with the water's nutrients below. Two are tapped to compare. */
const props = defineProps<{ reviews: Schemas['ProgrammeReview'][] }>()
const chosen = ref<number[]>([])
const pair = computed(() => props.reviews.filter((_, place) => chosen.value.includes(place)))
function touch(place: number) {
  const others = chosen.value.filter((one) => one !== place)
  chosen.value = others.length < chosen.value.length ? others : [...others.slice(-1), place]
}
</script>

<template>
  <div>
    <div v-if="pair.length === 2" class="two">
      <figure v-for="one in pair" :key="one.day">
        <img :src="BASE + one.picture" :alt="`${one.day}: ${one.coverage}`" />
        <figcaption>
          <b>{{ one.day }}</b> {{ one.coverage }}
        </figcaption>
      </figure>
    </div>
    <ol>
      <li v-for="(one, place) in reviews" :key="place">
        <button
          type="button"
          :disabled="!one.picture"
          :aria-pressed="chosen.includes(place)"
          :aria-label="`${one.day}: ${one.coverage}`"
          @click="touch(place)"
        >
          <img v-if="one.thumb" :src="BASE + one.thumb" alt="" loading="lazy" />
          <span v-else class="empty soft">no picture</span>
        </button>
        <svg viewBox="0 0 100 8" preserveAspectRatio="none" aria-hidden="true">
          <rect width="100" height="8" class="ground" />
          <rect :width="[0, 8, 30, 100][one.level]" height="8" class="film" />
        </svg>
        <b>{{ one.day }}</b>
        <span>{{ one.coverage }}</span>
        <span v-for="value in one.values" :key="value" class="soft">{{ value }}</span>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  display: flex;
  gap: 10px;
  overflow-x: auto;
  list-style: none;
  padding: 0 0 6px;
  margin: 0;
}
li {
  display: flex;
  flex-direction: column;
  flex: 0 0 150px;
  font-size: 0.9rem;
}
button {
  padding: 3px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  cursor: pointer;
}
button[aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px var(--ink);
}
li img,
.empty {
  display: grid;
  place-items: center;
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
}
svg {
  width: 100%;
  height: 6px;
  margin: 5px 0 3px;
}
.ground {
  fill: var(--line);
}
.film {
  fill: var(--deep);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin-bottom: 10px;
}
.two img {
  width: 100%;
  max-height: 46vh;
  object-fit: contain;
}
figure {
  margin: 0;
}
</style>
