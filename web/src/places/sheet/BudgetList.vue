<script setup lang="ts">
import type { Schemas } from '../../api/client'
import ChemText from '../../parts/ChemText.vue'

/** What the system uses, makes and loses a day, with how sure that is. */
defineProps<{ lines: Schemas['BudgetShown'][]; system: number }>()
</script>

<template>
  <details class="budget">
    <summary>What it uses, makes and loses</summary>
    <table>
      <caption class="visually-hidden">
        Per day, each with its 80 % range
      </caption>
      <tbody>
        <tr v-for="line in lines" :key="line.name">
          <th scope="row">{{ line.name }}</th>
          <td>{{ line.amount }}</td>
          <td class="soft"><ChemText :text="line.remarks.join('; ')" /></td>
        </tr>
      </tbody>
    </table>
    <p class="note">
      80 % range in brackets.
      <router-link :to="{ name: 'confidence', params: { system } }">How sure is this?</router-link>
    </p>
  </details>
</template>

<style scoped>
.budget {
  margin-top: 14px;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
summary {
  font-weight: 700;
  cursor: pointer;
}
table {
  border-collapse: collapse;
  font-size: 0.9rem;
  margin: 6px 0;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 4px 18px 4px 0;
  border-bottom: 1px solid var(--line);
}
th,
td:nth-child(2) {
  white-space: nowrap;
}
@media (max-width: 700px) {
  tr {
    display: grid;
  }
}
</style>
