<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CautionNote from '../../parts/CautionNote.vue'
import FoundTask from './FoundTask.vue'

/** A phase of a programme, and what it asks of this tank. */
defineProps<{
  system: number
  phase: Schemas['ProgrammePhase']
  place: number
  open: boolean
  busy: boolean
}>()
defineEmits<{ choose: [] }>()
</script>

<template>
  <li :class="{ now: phase.now, lived: phase.since && !phase.now, chosen: phase.kind === 'stronger' }">
    <details :open="open">
      <summary>
        <b>{{ place }}. {{ phase.name }}</b>
        <span v-if="phase.now" class="here">now, since {{ phase.since }}</span>
        <span v-else-if="phase.since" class="soft">from {{ phase.since }}</span>
        <span v-else-if="phase.kind === 'stronger'" class="soft">only if you choose it</span>
      </summary>
      <p>{{ phase.words }}</p>
      <CautionNote v-if="phase.caution" :caution="phase.caution" />
      <p v-for="one in phase.departs" :key="one" class="departs">{{ one }}</p>
      <ul>
        <li v-for="one in phase.tasks" :key="one.task" :class="{ done: one.done }">
          <b>{{ one.name }}</b>, {{ one.done ? 'done' : one.often }}
          <span class="soft">· {{ one.minutes }} min · {{ one.why }}</span>
          <FoundTask v-if="one.found?.length" :system="system" :task="one" />
        </li>
        <li v-if="phase.changes && !phase.holds"><b>Water changes</b>, {{ phase.changes }}</li>
        <li v-if="phase.light"><b>Light</b>: {{ phase.light }}</li>
        <li v-for="one in phase.food" :key="one"><b>Food</b>: {{ one }}</li>
        <li v-if="phase.holds">{{ phase.holds }}</li>
      </ul>
      <p class="soft until">
        {{ phase.until }}.
        <button
          v-if="phase.choose"
          class="plain-link"
          type="button"
          :disabled="busy"
          @click="$emit('choose')"
        >
          go to this phase
        </button>
      </p>
    </details>
  </li>
</template>

<style scoped>
li {
  list-style: none;
}
ol > li,
li.now,
li.lived,
li.chosen {
  border-left: 4px solid var(--line);
  padding: 4px 0 4px 14px;
}
li.lived {
  border-left-color: var(--soft);
}
li.now {
  border-left-color: var(--deep);
}
li.chosen {
  border-left-style: dotted;
}
summary {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: baseline;
  min-height: 44px;
  align-content: center;
  cursor: pointer;
}
summary b {
  font-size: 1.05rem;
}
.here {
  font-weight: 600;
}
ul {
  margin: 6px 0;
  padding-left: 18px;
}
ul li {
  list-style: disc;
  margin: 3px 0;
}
.done {
  opacity: 0.75;
}
.departs {
  border-left: 3px solid var(--magenta);
  padding-left: 10px;
}
p {
  margin: 4px 0;
}
</style>
