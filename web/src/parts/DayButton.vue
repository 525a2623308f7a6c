<script setup lang="ts">
import { mdiCalendar } from '@mdi/js'
import { defineAsyncComponent, ref } from 'vue'
import { weekOrder } from './numbers'

/** The button that opens the small calendar; the calendar is loaded when it is first opened. */
defineProps<{ day: string }>()
const emit = defineEmits<{ pick: [day: string] }>()
const DayPicker = defineAsyncComponent(() => import('./DayPicker.vue'))
const open = ref(false)
const opener = ref<HTMLElement>()
function pick(day: string) {
  open.value = false
  emit('pick', day)
}
</script>

<template>
  <button ref="opener" type="button" aria-label="Open the calendar">
    <v-icon :icon="mdiCalendar" size="20" />
  </button>
  <v-menu v-model="open" :activator="opener" :close-on-content-click="false">
    <DayPicker v-if="open" :day="day" :first="weekOrder()[0]!" @pick="pick" />
  </v-menu>
</template>

<style scoped>
button {
  min-width: 32px;
  min-height: 32px;
  border: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
</style>
