<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { fixed } from '../../parts/numbers'
import { dayWords, wall } from '../../parts/wall'

/** The same as the strips, to be read line by line. */
defineProps<{ strips: Schemas['Strip'][] }>()
</script>

<template>
  <div v-for="strip in strips" :key="strip.parameter" class="card block">
    <h2>{{ strip.name }}: {{ strip.verdict.words }}</h2>
    <p v-for="reason in strip.verdict.reasons" :key="reason">{{ reason }}</p>
    <p class="note">
      {{ strip.drift }}<template v-if="strip.crossing">; {{ strip.crossing.words }}</template>
    </p>
    <table>
      <caption class="visually-hidden">
        Readings of
        {{
          strip.name
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Value</th>
          <th scope="col">Instrument</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="mark in [...strip.marks].reverse()" :key="mark.at + mark.instrument">
          <td>{{ mark.when }}</td>
          <td>{{ mark.text }}</td>
          <td>{{ mark.instrument }}</td>
        </tr>
        <tr v-if="strip.expected.length">
          <td>{{ dayWords(wall(strip.expected.at(-1)!.at)) }}, expected</td>
          <td>
            {{ fixed(strip.expected.at(-1)!.low, strip.decimals) }} to
            {{ fixed(strip.expected.at(-1)!.high, strip.decimals) }} {{ strip.unit }}
          </td>
          <td>as planned</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.block {
  padding: 12px 16px;
  margin-bottom: 12px;
}
table {
  border-collapse: collapse;
  margin-top: 8px;
  font-size: 0.9rem;
}
th,
td {
  text-align: left;
  padding: 3px 28px 3px 0;
  border-bottom: 1px solid var(--line);
}
</style>
