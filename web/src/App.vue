<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ProblemError, SILENT } from './api/client'
import { harbourQuery } from './api/queries'
import { useCurrent } from './parts/current'
import { useDeviceZone } from './parts/deviceZone'
import { useKeys } from './parts/keys'
import FootBar from './parts/FootBar.vue'
import KeySheet from './parts/KeySheet.vue'
import { useNight } from './parts/night'
import { useNotices } from './parts/notices'
import { useQuickEntry } from './parts/quickEntry'
import { useWriting } from './parts/useWriting'
import { useReminders } from './parts/reminders'
import { usePageTitle } from './parts/pageTitle'
import { placeGroups, placesOf, WITHOUT_RAIL, type Place } from './parts/places'
import EmptyPlace from './parts/EmptyPlace.vue'
import PlacesMenu from './parts/PlacesMenu.vue'
import SystemRail from './parts/SystemRail.vue'
import { useTankless } from './parts/tankless'
import TopBar from './parts/TopBar.vue'
import { useUndo } from './parts/undo'
import AlarmBar from './parts/AlarmBar.vue'
import ExampleBar from './parts/ExampleBar.vue'

const route = useRoute()
const router = useRouter()
const current = useCurrent()
const notices = useNotices()
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
const undo = useUndo()
const main = ref<HTMLElement>()
usePageTitle(main)

const groups = computed(() => placeGroups(current.id))
const everyPlace = computed(() => groups.value.flatMap((group) => group.places))
const places = computed(() => placesOf(current.id))
/** The places at the foot of a phone; all others are behind "More". */
const atFoot = computed(() =>
  places.value.filter((place) => ['Harbour', 'Sheet', 'Bench', 'Rota'].includes(place.name)),
)
const isHere = (place: Place) => place.parts?.includes(String(route.name)) ?? false
const menu = ref(false)
const { withoutTank, placeHere } = useTankless(harbour, places)
const atTank = computed(() => route.name === 'run')
const withRail = computed(() => !WITHOUT_RAIL.includes(String(route.name)))

// A place that was never opened comes from the server too.
router.onError(() => notices.fail(new ProblemError(SILENT)))

useWriting(harbour)
// The jot line is loaded when it is first opened.
const JotLine = defineAsyncComponent(() => import('./places/jot/JotLine.vue'))
const { jot, openJot } = useQuickEntry()
const looked = computed(() =>
  route.params.system ? harbour.value?.systems.find((system) => system.id === current.id) : undefined,
)

const FindLine = defineAsyncComponent(() => import('./places/search/FindLine.vue'))
const find = ref({ open: false, used: false })
const openFind = () => (find.value = { open: true, used: true })
const keys = ref(false)
function pick(index: number) {
  const system = harbour.value?.systems[index]
  if (!system) return
  const name = route.params.system ? (route.name ?? 'sheet') : 'sheet'
  void router.push({ name, params: { system: system.id } })
}
useKeys({
  ...Object.fromEntries(
    everyPlace.value.map((place, i) => [place.key ?? '', () => void router.push(everyPlace.value[i]!.to)]),
  ),
  ...Object.fromEntries(Array.from({ length: 9 }, (_, i) => [String(i + 1), () => pick(i)])),
  j: () => openJot('record'),
  '=': () => openJot('sum'),
  n: () => (night.value = !night.value),
  '/': openFind,
  '?': () => (keys.value = true),
})
</script>

<template>
  <v-app>
    <a class="skip" href="#place">To the page</a>
    <ExampleBar />
    <AlarmBar />
    <TopBar
      v-if="!atTank"
      class="no-print"
      :groups="groups"
      :is-here="isHere"
      :harbour="harbour"
      :with-rail="withRail"
      :current="current.id"
      :night="night"
      @night="night = !night"
      @entry="openJot('record')"
      @calculator="openJot('sum')"
      @find="openFind"
      @more="menu = true"
      @pick="pick"
    />
    <div class="body" :inert="jot.open || keys || menu || find.open">
      <SystemRail
        v-if="withRail && !(harbour && !harbour.systems.length)"
        class="wide-only"
        :systems="harbour?.systems ?? []"
        :days="harbour?.ahead_days ?? 0"
        :current="current.id"
      />
      <main id="place" ref="main" tabindex="-1">
        <EmptyPlace v-if="withoutTank" :place="placeHere" />
        <router-view
          v-else
          :key="String(route.params.system ?? route.params.run ?? route.params.batch ?? route.name)"
        />
      </main>
    </div>
    <FootBar
      v-if="!atTank"
      class="no-print"
      :places="atFoot"
      :is-here="isHere"
      @entry="openJot('record')"
      @more="menu = true"
    />
    <KeySheet v-model="keys" :places="everyPlace.filter((one) => one.key)" />
    <PlacesMenu v-model="menu" :groups="groups" @calculator="openJot('sum')" @shortcuts="keys = true" />
    <JotLine
      v-if="jot.used"
      v-model="jot.open"
      v-model:mode="jot.mode"
      :system-id="looked?.id"
      :system-name="looked?.name"
    />
    <FindLine
      v-if="find.used"
      v-model="find.open"
      :system-id="current.id"
      :places="everyPlace"
      :systems="harbour?.systems ?? []"
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
.body {
  display: flex;
  flex: 1;
  align-items: flex-start;
}
main {
  flex: 1;
  min-width: 0;
  outline: none;
}
@media (max-width: 900px) {
  .wide-only {
    display: none;
  }
}
</style>
