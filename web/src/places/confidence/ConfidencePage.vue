<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { confidenceQuery } from '../../api/queries'
import ConfidenceOf from './ConfidenceOf.vue'
import Waiting from '../../parts/Waiting.vue'
import TermWord from '../../parts/TermWord.vue'

/** How sure the estimates are: all parameters in a table, and all that one of them rests on. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => confidenceQuery(id))
const picked = ref<string>()
const estimated = computed(() => data.value?.rows.filter((row) => row.estimated) ?? [])
const chosen = computed(
  () => estimated.value.find((row) => row.parameter === picked.value) ?? estimated.value[0],
)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>How sure</h1>
        <span class="soft">{{ data.name }}, the estimates and their evidence</span>
      </div>
      <p v-if="!data.rows.length" class="note">
        No tests yet. After four tests over at least a week, this page says how sure each rate is.
      </p>
      <div v-else class="scroll">
        <table class="values">
          <caption class="visually-hidden">
            Each parameter, how it moves, and its next test
          </caption>
          <thead>
            <tr>
              <th scope="col">Parameter</th>
              <th scope="col">Change by itself, and the 80 % range</th>
              <th scope="col"><TermWord word="scatter">A test today should read</TermWord></th>
              <th scope="col">Test next</th>
              <th scope="col">After it, the range</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in data.rows" :key="row.parameter" :class="{ chosen: row === chosen }">
              <th scope="row">
                <button
                  v-if="row.estimated"
                  class="plain-link"
                  type="button"
                  :aria-pressed="row === chosen"
                  @click="picked = row.parameter"
                >
                  {{ row.name }}
                </button>
                <template v-else>{{ row.name }}</template>
              </th>
              <td>
                {{ row.rate }} <span class="soft">{{ row.rests_on }}</span>
              </td>
              <td data-of="A test today should read">{{ row.expected || '–' }}</td>
              <td data-of="Test next">{{ row.next_test || '–' }}</td>
              <td class="soft" data-of="After it, the range is">{{ row.tells || '–' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="data.rows.length" class="note">{{ data.month }}</p>
      <ConfidenceOf v-if="chosen" :key="chosen.parameter" :system="id" :parameter="chosen.parameter" />
    </template>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
.values td,
.values th {
  vertical-align: top;
  padding-right: 18px;
}
.chosen {
  background: var(--card);
}
@media (max-width: 700px) {
  thead {
    display: none;
  }
  tr {
    display: grid;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  .values td,
  .values th {
    border: 0;
    padding: 1px 0;
  }
  td[data-of]::before {
    content: attr(data-of) ' ';
    color: var(--soft);
    font-style: italic;
  }
}
</style>
