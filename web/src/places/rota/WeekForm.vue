<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { typed, weekOrder } from '../../parts/numbers'
import { useTime } from './useTime'
import DateField from '../../parts/DateField.vue'

/** Minutes by weekday, and single days that differ. */
const props = defineProps<{ minutes: Schemas['Minutes'] }>()
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const time = useTime(() => props.minutes)
const week = reactive(props.minutes.week.map(String))
const single = reactive({ day: '', minutes: '' })
const which = ref('')

function keepWeek() {
  which.value = 'week'
  return time.keepWeek(week.map(typed))
}
async function keepDay() {
  which.value = 'day'
  if (await time.keepDay(single.day, typed(single.minutes))) [single.day, single.minutes] = ['', '']
}
const wrong = (form: string, field: string) => (which.value === form ? time.wrong(field) : undefined)
</script>

<template>
  <section>
    <h2>Minutes you have for upkeep</h2>
    <form class="week" @submit.prevent="keepWeek">
      <v-text-field
        v-for="index in weekOrder()"
        :key="index"
        v-model="week[index]"
        :label="DAYS[index]"
        suffix="min"
        inputmode="numeric"
        :error-messages="wrong('week', `week.${index}`)"
      />
      <v-btn type="submit" variant="flat" :loading="time.busy.value">Save</v-btn>
    </form>
    <p class="note my-2">
      Long work moves to days with time for it. Nothing goes past its latest day without telling you.
    </p>
    <h2>Single days</h2>
    <ul class="days">
      <li v-for="one in minutes.single" :key="one.day">
        {{ one.words }}: {{ one.minutes }} min
        <button class="plain-link" type="button" @click="time.keepDay(one.day, null)">
          same as its weekday
        </button>
      </li>
    </ul>
    <form class="day" @submit.prevent="keepDay">
      <DateField v-model="single.day" ahead label="Day" required :error="wrong('day', 'day')" />
      <v-text-field
        v-model="single.minutes"
        label="Minutes"
        suffix="min"
        inputmode="numeric"
        :error-messages="wrong('day', 'minutes')"
      />
      <v-btn type="submit">Save this day</v-btn>
    </form>
  </section>
</template>

<style scoped>
.week,
.day {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 10px 14px;
  align-items: start;
  max-width: 700px;
  margin: 8px 0;
}
.days {
  list-style: none;
}
</style>
