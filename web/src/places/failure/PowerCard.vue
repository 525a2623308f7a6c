<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'

/** Without power, hour by hour: what goes, what to do then, and what a battery keeps running. */
defineProps<{ board: Schemas['FailureBoard']; system: number }>()
const open = ref('')
const toggle = (key: string) => (open.value = open.value === key ? '' : key)
</script>

<template>
  <section class="card" aria-labelledby="power-title">
    <h2 id="power-title">Without power, hour by hour</h2>
    <ol>
      <li v-for="one in board.power" :key="one.what">
        <span class="when">{{ one.when }}</span>
        <span>
          <b>{{ one.what }}.</b> {{ one.do }}
          <button
            v-if="one.working.length"
            type="button"
            class="plain-link"
            :aria-expanded="open === one.what"
            :aria-label="`working: ${one.what}`"
            @click="toggle(one.what)"
          >
            working
          </button>
          <Working v-if="open === one.what" :steps="one.working" />
        </span>
      </li>
    </ol>
    <table>
      <caption>
        A battery runs first things first
      </caption>
      <thead>
        <tr>
          <th scope="col">What hangs on it</th>
          <th scope="col" class="number">Power</th>
          <th v-if="board.battery.some((one) => one.lasts)" scope="col" class="number">Yours lasts</th>
          <th scope="col" class="number">For a night</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in board.battery" :key="one.name">
          <th scope="row">{{ one.name }}</th>
          <td class="number">{{ one.power }}</td>
          <td v-if="board.battery.some((each) => each.lasts)" class="number">{{ one.lasts }}</td>
          <td class="number">
            <button
              type="button"
              class="plain-link"
              :aria-expanded="open === one.name"
              :aria-label="`${one.size}, working: ${one.name}`"
              @click="toggle(one.name)"
            >
              {{ one.size }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <Working
      v-for="one in board.battery.filter((each) => each.name === open)"
      :key="one.name"
      :steps="one.working"
    />
    <router-link :to="{ name: 'emergency-sheet', params: { system, sheet: 'power_failure' } }"
      >The sheet for it, step by step</router-link
    >
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
  margin-bottom: 16px;
}
h2 {
  font-size: 1.1rem;
}
ol {
  list-style: none;
  padding: 0;
  margin: 6px 0 12px;
}
li {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr);
  gap: 4px 12px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
.when {
  font-weight: 600;
}
table {
  width: 100%;
  border-collapse: collapse;
  margin-bottom: 8px;
}
caption {
  text-align: left;
  font-weight: 600;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 3px 12px 3px 0;
}
thead th {
  color: var(--soft);
  font-size: 0.9rem;
}
.number {
  text-align: right;
  white-space: nowrap;
}
@media (max-width: 600px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
