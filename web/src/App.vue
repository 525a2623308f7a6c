<script setup lang="ts">
import {
  mdiCalculatorVariantOutline,
  mdiCogOutline,
  mdiMenu,
  mdiPencilPlusOutline,
  mdiWeatherNight,
  mdiWhiteBalanceSunny,
} from '@mdi/js'
import { useQuery } from '@pinia/colada'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ProblemError, SILENT } from './api/client'
import { harbourQuery, useRefresh } from './api/queries'
import { useCurrent } from './parts/current'
import { useDeviceZone } from './parts/deviceZone'
import { useKeys } from './parts/keys'
import KeySheet from './parts/KeySheet.vue'
import { useNight } from './parts/night'
import { useNotices } from './parts/notices'
import { writing } from './parts/numbers'
import { useReminders } from './parts/reminders'
import { placeGroups, placesOf, WITHOUT_RAIL, type Place } from './parts/places'
import PlacesMenu from './parts/PlacesMenu.vue'
import SystemRail from './parts/SystemRail.vue'
import { clockWords } from './parts/wall'

const route = useRoute()
const router = useRouter()
const current = useCurrent()
const notices = useNotices()
const refresh = useRefresh()
const { data: harbour } = useQuery(harbourQuery)

watch(
  () => route.params.system,
  (id) => {
    if (id) current.id = Number(id)
  },
  { immediate: true },
)
watch(
  () => harbour.value?.systems,
  (systems) => {
    if (systems?.length && !systems.some((system) => system.id === current.id)) current.id = systems[0]!.id
  },
)

useDeviceZone(harbour)
useReminders()
const night = useNight()

const groups = computed(() => placeGroups(current.id))
const places = computed(() => placesOf(current.id))
/** The places at the foot of a phone; all others are behind "More". */
const atFoot = computed(() =>
  places.value.filter((place) => ['Harbour', 'Sheet', 'Bench', 'Rota'].includes(place.name)),
)
const isHere = (place: Place) => place.parts?.includes(String(route.name)) ?? false
const menu = ref(false)
const atTank = computed(() => route.name === 'run')
const withRail = computed(() => !WITHOUT_RAIL.includes(String(route.name)))

// A place that was never opened comes from the server too.
router.onError(() => notices.fail(new ProblemError(SILENT)))

watch(harbour, (now) => {
  if (now) Object.assign(writing, { decimal: now.decimal_sign, days: now.days, clock: now.clock })
})

// The jot line is loaded when it is first opened.
const JotLine = defineAsyncComponent(() => import('./places/jot/JotLine.vue'))
const jot = ref({ open: false, used: false, mode: 'record' as 'record' | 'sum' })
const openJot = (mode: 'record' | 'sum') => (jot.value = { open: true, used: true, mode })
const looked = computed(() =>
  route.params.system ? harbour.value?.systems.find((system) => system.id === current.id) : undefined,
)

const keys = ref(false)
function pick(index: number) {
  const system = harbour.value?.systems[index]
  if (!system) return
  const name = route.params.system ? (route.name ?? 'sheet') : 'sheet'
  void router.push({ name, params: { system: system.id } })
}
useKeys({
  ...Object.fromEntries(
    places.value.map((place, i) => [place.key ?? '', () => void router.push(places.value[i]!.to)]),
  ),
  ...Object.fromEntries(Array.from({ length: 9 }, (_, i) => [String(i + 1), () => pick(i)])),
  j: () => openJot('record'),
  '=': () => openJot('sum'),
  n: () => (night.value = !night.value),
  '?': () => (keys.value = true),
})

async function undo() {
  const way = notices.notice?.undo
  notices.notice = undefined
  if (!way) return
  try {
    await way()
    notices.say('Undone.')
  } catch (fault) {
    notices.fail(fault)
  }
  await refresh()
}
</script>

<template>
  <v-app>
    <a class="skip" href="#place">To the page</a>
    <header v-if="!atTank" class="bar no-print">
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
          :value="current.id"
          @change="pick(($event.target as HTMLSelectElement).selectedIndex)"
        >
          <option v-for="system in harbour.systems" :key="system.id" :value="system.id">
            {{ system.name }}
          </option>
        </select>
        <span v-if="harbour" class="soft clock">{{ clockWords(harbour.now) }}</span>
        <v-btn
          class="wide-only"
          size="small"
          :prepend-icon="mdiPencilPlusOutline"
          aria-haspopup="dialog"
          @click="openJot('record')"
          >Quick entry</v-btn
        >
        <v-btn
          class="wide-only"
          size="small"
          variant="text"
          :icon="mdiCalculatorVariantOutline"
          aria-label="Calculator"
          title="Calculator (=)"
          aria-haspopup="dialog"
          @click="openJot('sum')"
        />
        <v-btn
          size="small"
          variant="text"
          :icon="night ? mdiWhiteBalanceSunny : mdiWeatherNight"
          :aria-label="night ? 'Day colours' : 'Night colours'"
          :title="night ? 'Day colours (n)' : 'Night colours (n)'"
          @click="night = !night"
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
          @click="menu = true"
        />
      </div>
    </header>
    <div class="body" :inert="jot.open || keys || menu">
      <SystemRail
        v-if="withRail && harbour?.systems.length"
        class="wide-only"
        :systems="harbour.systems"
        :days="harbour.ahead_days"
        :current="current.id"
      />
      <main id="place" tabindex="-1">
        <router-view
          :key="String(route.params.system ?? route.params.run ?? route.params.batch ?? route.name)"
        />
      </main>
    </div>
    <nav v-if="!atTank" class="foot no-print" aria-label="Places at the foot">
      <router-link
        v-for="place in atFoot"
        :key="place.name"
        :to="place.to"
        active-class="here"
        :class="{ here: isHere(place) }"
        ><v-icon :icon="place.icon" size="22" aria-hidden="true" />{{ place.name }}</router-link
      >
      <button type="button" aria-haspopup="dialog" @click="openJot('record')">
        <v-icon :icon="mdiPencilPlusOutline" size="22" aria-hidden="true" />Entry
      </button>
      <button type="button" aria-haspopup="dialog" @click="menu = true">
        <v-icon :icon="mdiMenu" size="22" aria-hidden="true" />More
      </button>
    </nav>
    <KeySheet v-model="keys" :places="places" />
    <PlacesMenu v-model="menu" :groups="groups" @calculator="openJot('sum')" @shortcuts="keys = true" />
    <JotLine
      v-if="jot.used"
      v-model="jot.open"
      v-model:mode="jot.mode"
      :system-id="looked?.id"
      :system-name="looked?.name"
    />
    <v-snackbar
      :model-value="!!notices.notice"
      :location="atTank ? 'top' : 'bottom'"
      :timeout="notices.notice?.failed ? 15000 : 9000"
      @update:model-value="notices.notice = undefined"
    >
      <span role="status">{{ notices.notice?.words }}</span>
      <template #actions>
        <v-btn v-if="notices.notice?.undo" variant="text" color="background" @click="undo">Undo</v-btn>
        <v-btn v-else variant="text" color="background" @click="notices.notice = undefined">Close</v-btn>
      </template>
    </v-snackbar>
  </v-app>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 10;
  background: var(--card);
  padding: 6px 10px;
}
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
  white-space: nowrap;
  margin-right: 8px;
}
.pick {
  display: none;
}
.body {
  display: flex;
  align-items: flex-start;
}
main {
  flex: 1;
  min-width: 0;
  outline: none;
}
.foot {
  display: none;
}
@media (max-width: 1340px) {
  .clock {
    display: none;
  }
  nav,
  .group {
    gap: 12px;
  }
  nav {
    gap: 0;
  }
  .group + .group {
    margin-left: 10px;
    padding-left: 10px;
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
