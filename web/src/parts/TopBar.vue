<script setup lang="ts">
import {
  mdiCalculatorVariantOutline,
  mdiCogOutline,
  mdiLifebuoy,
  mdiMagnify,
  mdiMenu,
  mdiPencilPlusOutline,
  mdiWeatherNight,
  mdiWhiteBalanceSunny,
} from '@mdi/js'
import type { Schemas } from '../api/client'
import type { Place, PlaceGroup } from './places'
import { clockWords } from './wall'

/** The bar at the top: the places by groups where there is room, the system on a phone, and what is always at hand. */
defineProps<{
  groups: PlaceGroup[]
  isHere: (place: Place) => boolean
  harbour: Schemas['Harbour'] | undefined
  withRail: boolean
  current: number
  night: boolean
}>()
const emit = defineEmits<{
  entry: []
  calculator: []
  find: []
  more: []
  night: []
  pick: [index: number]
}>()
</script>

<template>
  <header class="bar">
    <router-link :to="{ name: 'harbour' }" class="brand">Salt Tide</router-link>
    <nav aria-label="Places">
      <div v-for="group in groups" :key="group.name" class="group">
        <router-link
          v-for="place in group.places.filter((one) => !one.inside)"
          :key="place.name"
          :to="place.to"
          active-class="here"
          class="place"
          :class="{ here: isHere(place) }"
          >{{ place.name }}</router-link
        >
      </div>
    </nav>
    <div class="right">
      <select
        v-if="withRail && harbour"
        class="pick"
        aria-label="System"
        :value="current"
        @change="emit('pick', ($event.target as HTMLSelectElement).selectedIndex)"
      >
        <option v-for="system in harbour.systems" :key="system.id" :value="system.id">
          {{ system.name }}
        </option>
      </select>
      <span class="soft clock">{{ harbour ? clockWords(harbour.now) : '' }}</span>
      <v-btn
        class="wide-only"
        size="small"
        :prepend-icon="mdiPencilPlusOutline"
        aria-haspopup="dialog"
        @click="emit('entry')"
        >Quick entry</v-btn
      >
      <v-btn
        size="small"
        variant="text"
        color="error"
        :icon="mdiLifebuoy"
        aria-label="Emergency"
        title="Emergency (!)"
        :to="{ name: 'emergencies', params: { system: current } }"
      />
      <v-btn
        size="small"
        variant="text"
        :icon="mdiMagnify"
        aria-label="Search"
        title="Search (/)"
        aria-haspopup="dialog"
        @click="emit('find')"
      />
      <v-btn
        class="wide-only"
        size="small"
        variant="text"
        :icon="mdiCalculatorVariantOutline"
        aria-label="Calculator"
        title="Calculator (=)"
        aria-haspopup="dialog"
        @click="emit('calculator')"
      />
      <v-btn
        size="small"
        variant="text"
        :icon="night ? mdiWhiteBalanceSunny : mdiWeatherNight"
        :aria-label="night ? 'Day colours' : 'Night colours'"
        :title="night ? 'Day colours (n)' : 'Night colours (n)'"
        @click="emit('night')"
      />
      <v-btn
        class="wide-only"
        size="small"
        variant="text"
        :icon="mdiCogOutline"
        aria-label="Settings"
        title="Settings"
        :to="{ name: 'settings' }"
      />
      <v-btn
        class="wide-only"
        size="small"
        variant="text"
        :icon="mdiMenu"
        aria-label="All places"
        title="All places"
        aria-haspopup="dialog"
        @click="emit('more')"
      />
    </div>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 24px;
  padding: 0 18px;
  min-height: 50px;
  border-bottom: 1px solid var(--line);
}
.brand,
.place {
  white-space: nowrap;
}
.brand {
  font-size: 1.3rem;
  font-weight: 700;
  text-decoration: none;
}
nav,
.group {
  display: flex;
  gap: 18px;
}
nav {
  gap: 0;
}
.group + .group {
  margin-left: 16px;
  padding-left: 16px;
  border-left: 1px solid var(--line);
}
.place {
  text-decoration: none;
  color: var(--soft);
  padding: 12px 2px 10px;
  border-bottom: 3px solid transparent;
}
.place.here {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--ink);
}
.right {
  margin-left: auto;
  display: flex;
  gap: 4px;
  align-items: center;
  font-size: 0.9rem;
}

.clock {
  min-width: 9.5em;
  text-align: right;
  white-space: nowrap;
  margin-right: 8px;
}
.pick {
  display: none;
}
@media (max-width: 1400px) {
  .bar {
    gap: 10px;
    padding: 0 12px;
  }
  .group {
    gap: 11px;
  }
  .group + .group {
    margin-left: 8px;
    padding-left: 8px;
  }
  .right {
    gap: 1px;
  }
}
@media (max-width: 1260px) {
  .clock {
    display: none;
  }
}
@media (max-width: 1100px) {
  .group {
    gap: 8px;
  }
  .group + .group {
    margin-left: 5px;
    padding-left: 5px;
  }
}
@media (max-width: 900px) {
  .bar {
    gap: 12px;
    padding: 0 14px;
  }
  .bar nav,
  .wide-only,
  .clock {
    display: none;
  }
  .pick {
    display: inline-block;
    font: inherit;
    font-weight: 600;
    color: var(--ink);
    background: var(--card);
    border: 1px solid var(--line);
    border-radius: 4px;
    padding: 4px 6px;
  }
}
@media (max-width: 360px) {
  .bar {
    gap: 4px;
    padding: 0 8px;
  }
}
@media (max-width: 360px) {
  .bar {
    gap: 4px;
    padding: 0 8px;
  }
}
</style>
