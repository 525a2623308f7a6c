<script setup lang="ts">
import type { Schemas } from '../../api/client'
import LineSample from './LineSample.vue'
import { LETTERS, type Draft } from './useWhatIf'

/** The worst of each plan and what it asks, to be read line by line. */
defineProps<{ compared: Schemas['Compared']; drafts: Draft[] }>()
</script>

<template>
  <div class="scroll">
    <table>
      <caption class="visually-hidden">
        Worst values, crossings and what each plan asks
      </caption>
      <thead>
        <tr>
          <td />
          <th v-for="(draft, place) in drafts.slice(0, compared.asked.length)" :key="place" scope="col">
            <LineSample :place="place" /> {{ LETTERS[place] }} <i>{{ draft.name }}</i>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="strip in compared.strips" :key="strip.parameter">
          <th scope="row">
            {{ strip.name }}
            <span v-if="strip.band" class="soft"
              >{{ strip.band.low.text }} to {{ strip.band.high.text }}</span
            >
          </th>
          <td v-for="(course, place) in strip.courses" :key="place">
            {{ course.lowest }} to {{ course.highest }}
            <span v-if="course.days_out" class="magenta"
              >{{ course.days_out }} d outside<template v-if="course.leaves"
                >, from {{ course.leaves }}</template
              ></span
            >
          </td>
        </tr>
        <tr>
          <th scope="row">Salt a month</th>
          <td v-for="(one, place) in compared.asked" :key="place">{{ one.salt_kg }}</td>
        </tr>
        <tr>
          <th scope="row">Dosed a month</th>
          <td v-for="(one, place) in compared.asked" :key="place">{{ one.compounds }}</td>
        </tr>
        <tr>
          <th scope="row">Work a month</th>
          <td v-for="(one, place) in compared.asked" :key="place">{{ one.minutes }} min</td>
        </tr>
        <tr>
          <th scope="row">Cost a month</th>
          <td v-for="(one, place) in compared.asked" :key="place">{{ one.cost }}</td>
        </tr>
        <tr v-if="compared.asked.some((one) => one.notes.length)">
          <th scope="row">Notes</th>
          <td v-for="(one, place) in compared.asked" :key="place">{{ one.notes.join(' ') }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.9rem;
  margin: 12px 0;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 5px 14px 5px 0;
  border-bottom: 1px solid var(--line);
}
thead th {
  font-weight: 600;
}
td .magenta {
  display: block;
  font-style: italic;
}
th span {
  font-weight: 400;
  font-size: 0.8rem;
}
</style>
