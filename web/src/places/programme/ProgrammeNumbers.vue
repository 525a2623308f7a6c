<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'

/** What a programme does to this tank's water, and what it takes. */
const failed = ref(false)
defineProps<{ sheet: Schemas['ProgrammeSheet'] }>()
</script>

<template>
  <section class="card" aria-labelledby="numbers-title">
    <h2 id="numbers-title">In this tank’s numbers</h2>
    <p>{{ sheet.weeks }}.</p>
    <p>{{ sheet.minutes }}.</p>
    <p v-if="sheet.salt">{{ sheet.salt }}.</p>
    <p v-if="sheet.buy.length"><b>Have ready:</b> {{ sheet.buy.join(', ') }}</p>
    <table v-if="sheet.effects.length">
      <caption class="soft">
        While it is fought, in four weeks
      </caption>
      <thead>
        <tr>
          <th scope="col"></th>
          <th scope="col">now</th>
          <th scope="col">as usual</th>
          <th scope="col">with it</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in sheet.effects" :key="one.name">
          <th scope="row">{{ one.name }}</th>
          <td>{{ one.now }}</td>
          <td>{{ one.usual }}</td>
          <td>
            <b>{{ one.after }}</b>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="soft">{{ sheet.after }}</p>
    <template v-if="sheet.last_resort">
      <p v-if="sheet.before_that" class="soft">{{ sheet.before_that }}</p>
      <label v-else class="last"
        ><input v-model="failed" type="checkbox" /> All of this was done for weeks, and has failed: show
        chemicals</label
      >
      <p v-if="failed" class="departs" role="note">{{ sheet.last_resort }}</p>
    </template>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
p {
  margin: 4px 0;
}
p::first-letter {
  text-transform: uppercase;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin: 8px 0;
}
caption {
  text-align: left;
}
th {
  text-align: left;
  font-weight: 400;
}
td,
thead th {
  text-align: right;
  padding: 3px 0 3px 10px;
  font-variant-numeric: tabular-nums;
}
tr {
  border-top: 1px solid var(--line);
}
.last {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
}
.departs {
  border-left: 3px solid var(--magenta);
  padding-left: 10px;
}
</style>
