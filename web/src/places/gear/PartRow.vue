<script setup lang="ts">
import type { Schemas } from '../../api/client'
import LifeScale from './LifeScale.vue'
import PartForm from './PartForm.vue'

/** A part on one line: what is left of it, what comes next, its spare, what was found; in full when it is opened. */
defineProps<{ part: Schemas['PartShown']; system: number; open: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
</script>

<template>
  <article class="row" :class="{ open }">
    <button class="name" type="button" :aria-expanded="open" @click="emit('toggle')">
      <b>{{ part.name }}</b>
      <span class="soft small">{{ part.since_words }}</span>
    </button>
    <LifeScale :lives="part.lives" />
    <div>
      {{ part.changed ? 'changed' : 'serviced' }} next
      <router-link :to="{ name: 'task', params: { system, task: part.task } }">{{
        part.next_words || 'never: off the rota'
      }}</router-link>
      <div class="soft small">{{ part.next_why }}</div>
    </div>
    <div :class="{ magenta: part.buy }">
      {{ part.spare_words }}
      <div v-if="part.new_words" class="soft small">{{ part.new_words }}</div>
    </div>
    <div class="small">
      <div v-if="part.flow_words" :class="{ magenta: part.flow_low }">{{ part.flow_words }}</div>
      <div class="soft">{{ [part.serviced_words, ...part.found].join(' · ') }}</div>
    </div>
    <PartForm v-if="open" class="whole" :part="part" :system="system" />
  </article>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 190px 230px 250px 160px minmax(0, 1fr);
  gap: 4px 18px;
  align-items: start;
  padding: 8px 6px;
  border-top: 1px solid var(--line);
}
.row.open {
  background: var(--card);
}
.name {
  display: grid;
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
.name b {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.small {
  font-size: 0.86rem;
}
.whole {
  grid-column: 1 / -1;
}
@media (max-width: 1000px) {
  .row {
    grid-template-columns: 1fr 1fr;
  }
  .row > :nth-child(n + 5) {
    grid-column: 1 / -1;
  }
}
</style>
