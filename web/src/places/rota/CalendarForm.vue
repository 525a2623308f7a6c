<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { typed } from '../../parts/numbers'
import SecretAddress from '../../parts/SecretAddress.vue'
import { useCalendar } from './useCalendar'
import TimeField from '../../parts/TimeField.vue'
import { BASE } from '../../parts/example'

/** How the rota is told to a calendar: a sentence to edit, a file, and an address that is asked again and again. */
const props = defineProps<{ kept: Schemas['CalendarShown'] }>()
const calendar = useCalendar(() => props.kept)
const request = reactive({
  entry_type: props.kept.entry_type as Schemas['CalendarBody']['entry_type'],
  begins: props.kept.begins,
  alarm: props.kept.alarm_minutes === null ? '' : String(props.kept.alarm_minutes),
})
const changed = computed(
  () =>
    request.entry_type !== props.kept.entry_type ||
    request.begins !== props.kept.begins ||
    request.alarm.trim() !== String(props.kept.alarm_minutes ?? ''),
)
const keep = () =>
  calendar.keep({
    entry_type: request.entry_type,
    begins: request.begins,
    alarm_minutes: request.alarm.trim() ? typed(request.alarm) : null,
  })
</script>

<template>
  <section>
    <h2>Your work in your calendar</h2>
    <form class="sentence" @submit.prevent="keep">
      Each task is
      <select v-model="request.entry_type" class="inline" aria-label="Each task is">
        <option value="event">an event</option>
        <option value="to_do">a to-do</option></select
      >; a day’s work begins at
      <TimeField v-model="request.begins" inline label="A day’s work begins at" />
      and an alarm rings
      <input
        v-model="request.alarm"
        class="inline short"
        inputmode="numeric"
        aria-label="Minutes before the alarm rings"
        placeholder="never"
        :aria-invalid="Boolean(calendar.wrong('alarm_minutes'))"
        aria-describedby="alarm-wrong"
      />
      min before the first task.
      <p v-if="calendar.wrong('alarm_minutes')" id="alarm-wrong" class="magenta">
        {{ calendar.wrong('alarm_minutes') }}
      </p>
      <p v-if="changed">
        <v-btn type="submit" variant="flat" size="small" :loading="calendar.busy.value">Save</v-btn>
      </p>
    </form>
    <h3>Calendar subscription link</h3>
    <p class="note">
      Changes here appear there a little later. Anyone with the link can read your rota: share it with nobody,
      and make a new one if it leaks.
    </p>
    <SecretAddress
      v-if="kept.address"
      :address="kept.address"
      label="Calendar link"
      class="my-2"
      @anew="calendar.newAddress"
      @drop="calendar.dropAddress"
    >
      <span class="soft">{{ kept.asked_words }}</span>
    </SecretAddress>
    <p v-else>
      <v-btn variant="flat" size="small" @click="calendar.newAddress">Create link</v-btn>
    </p>
    <h3>A file</h3>
    <p class="note">The next six weeks and the last thirty days as of now; it does not update.</p>
    <p><a :href="`${BASE}/api/rota/calendar.ics`" download>rota as an iCalendar file</a></p>
  </section>
</template>

<style scoped>
h3 {
  font-size: 1rem;
  margin: 18px 0 2px;
}
.sentence {
  line-height: 2;
}
.short {
  width: 4.5em;
}
</style>
