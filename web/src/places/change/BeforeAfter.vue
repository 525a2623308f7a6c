<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'
import ChannelMark from './ChannelMark.vue'

defineProps<{ step: Schemas['StepAnswer'] }>()
const open = ref<string>()
</script>

<template>
  <table>
    <caption class="visually-hidden">
      Before and after
    </caption>
    <thead>
      <tr>
        <th scope="col" class="first">Before and after</th>
        <td />
        <th scope="col">before</th>
        <th scope="col">after</th>
        <th scope="col" class="words">from</th>
      </tr>
    </thead>
    <tbody>
      <template v-for="row in step.rows" :key="row.parameter">
        <tr>
          <th scope="row">
            {{ row.name }} <span class="unit">{{ row.unit }}</span>
          </th>
          <td><ChannelMark :row="row" /></td>
          <td class="number">{{ row.before.text }}</td>
          <td class="number">
            <button
              v-if="row.after && row.working.length"
              type="button"
              class="plain-link strong"
              :aria-expanded="open === row.parameter"
              :aria-label="`${row.name} after: ${row.after.text} ${row.unit}, show working`"
              @click="open = open === row.parameter ? undefined : row.parameter"
            >
              {{ row.after.text }}
            </button>
            <b v-else>{{ row.after?.text ?? '–' }}</b>
            <div
              v-if="row.after_low && row.after_high && row.after_low.text !== row.after_high.text"
              class="range"
            >
              {{ row.after_low.text }}–{{ row.after_high.text }}
            </div>
          </td>
          <td class="words">
            {{ row.remark || row.known_from }}
            <b v-for="limit in row.limits.filter((one) => one.passed)" :key="limit.words" class="magenta">
              past {{ limit.value.text }} {{ limit.value.unit }}, {{ limit.words }}
            </b>
          </td>
        </tr>
        <tr v-if="open === row.parameter" class="derivation">
          <td colspan="5"><Working :steps="row.working" /></td>
        </tr>
      </template>
    </tbody>
  </table>
  <p v-for="remark in step.remarks" :key="remark" class="note mt-2">{{ remark }}</p>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 600;
  white-space: nowrap;
}
thead th {
  font-weight: 400;
  font-style: italic;
  font-size: 0.85rem;
  color: var(--soft);
  text-align: right;
}
thead .first {
  text-align: left;
  font-style: normal;
  font-weight: 700;
  font-size: 1rem;
  color: var(--ink);
}
tr {
  border-bottom: 1px solid var(--line);
}
td,
th {
  padding: 5px 10px 5px 0;
}
.derivation {
  border: 0;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.strong {
  font-weight: 700;
}
.range {
  font-size: 0.75rem;
  color: var(--soft);
}
.words,
thead .words {
  text-align: left;
  font-size: 0.8rem;
  font-style: italic;
  color: var(--soft);
  padding-left: 8px;
  width: 132px;
  line-height: 1.2;
}
@media (max-width: 600px) {
  .words {
    display: none;
  }
}
</style>
