<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'

/** The flow, and each stage: what it has done, and when it is due; costs, and what a better stage would change. */
defineProps<{ shown: Schemas['FreshWater'] }>()
const open = ref('')
const toggle = (key: string) => (open.value = open.value === key ? '' : key)
</script>

<template>
  <section class="card" aria-labelledby="stages-title">
    <h2 id="stages-title">The unit</h2>
    <p>
      {{ shown.flow.words }}
      <button
        type="button"
        class="plain-link"
        :aria-expanded="open === 'flow'"
        aria-label="Working: flow"
        @click="toggle('flow')"
      >
        working
      </button>
    </p>
    <Working v-if="open === 'flow'" :steps="shown.flow.working" />
    <ul>
      <li v-for="one in shown.stages" :key="one.key">
        <b>{{ one.name }}</b>
        <span>{{ one.words }}</span>
        <span class="soft">{{ one.due }}</span>
        <button
          v-if="one.working.length"
          type="button"
          class="plain-link"
          :aria-expanded="open === one.key"
          :aria-label="`Working: ${one.name}`"
          @click="toggle(one.key)"
        >
          working
        </button>
        <Working v-if="open === one.key" :steps="one.working" class="whole" />
      </li>
    </ul>
    <p v-if="shown.beds" class="soft">{{ shown.beds }}.</p>
    <p v-if="shown.cost">
      {{ shown.cost }}<span v-if="shown.cost_missing" class="soft">, {{ shown.cost_missing }}</span
      >.
    </p>
    <p v-for="one in shown.better" :key="one" class="soft">{{ one }}.</p>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  display: grid;
  grid-template-columns: 90px minmax(0, 1fr) minmax(0, 1.3fr) auto;
  gap: 4px 12px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.whole {
  grid-column: 1 / -1;
}
@media (max-width: 600px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  li .soft {
    grid-column: 1 / -1;
  }
}
</style>
