<script setup lang="ts">
import { mdiMenu, mdiPencilPlusOutline } from '@mdi/js'
import type { Place } from './places'

/** The bar at the foot of a phone: the places used most, quick entry, and all others. */
defineProps<{ places: Place[]; isHere: (place: Place) => boolean }>()
const emit = defineEmits<{ entry: []; more: [] }>()
</script>

<template>
  <nav class="foot" aria-label="Places at the foot">
    <router-link
      v-for="place in places"
      :key="place.name"
      :to="place.to"
      active-class="here"
      :class="{ here: isHere(place) }"
      ><v-icon :icon="place.icon" size="22" aria-hidden="true" />{{ place.name }}</router-link
    >
    <button type="button" aria-haspopup="dialog" @click="emit('entry')">
      <v-icon :icon="mdiPencilPlusOutline" size="22" aria-hidden="true" />Entry
    </button>
    <button type="button" aria-haspopup="dialog" @click="emit('more')">
      <v-icon :icon="mdiMenu" size="22" aria-hidden="true" />More
    </button>
  </nav>
</template>

<style scoped>
.foot {
  display: none;
}
@media (max-width: 900px) {
  .foot {
    display: flex;
    position: sticky;
    bottom: 0;
    z-index: 5;
    gap: 0;
    background: var(--card);
    border-top: 1px solid var(--line);
  }
  .foot > * {
    flex: 1;
    display: grid;
    justify-items: center;
    gap: 2px;
    min-width: 0;
    padding: 8px 0 7px;
    font-size: 0.8rem;
    text-decoration: none;
    color: var(--soft);
  }
  .foot a.here {
    color: var(--ink);
    font-weight: 700;
    box-shadow: inset 0 3px var(--ink);
  }
}
</style>
