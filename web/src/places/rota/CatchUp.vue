<script setup lang="ts">
import { computed } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

/** What was missed, by what it means when it is left undone: spread over the coming days, or skipped in one press. */
const props = defineProps<{ groups: Schemas['MissedShown'][] }>()
const commands = useCommands()
const count = computed(() => props.groups.reduce((sum, group) => sum + group.tasks.length, 0))
const skip = (group: Schemas['MissedShown']) =>
  commands.run(() =>
    command((header) =>
      api.POST('/api/rota/skip', {
        params: { header },
        body: {
          reason: 'missed; left until its next time',
          items: group.tasks.map(({ system_id, task, due, step_id }) => ({ system_id, task, due, step_id })),
        },
      }),
    ),
  )
</script>

<template>
  <section class="missed" aria-labelledby="missed-title">
    <h2 id="missed-title">Catching up: {{ count }} tasks were missed</h2>
    <p class="soft">They are spread over the coming days within your minutes, what matters most first.</p>
    <details v-for="group in groups" :key="group.key" :open="group.key === 'danger'">
      <summary>
        <b :class="{ magenta: group.key === 'danger' }">{{ group.name }}</b>
        <span class="soft"> · {{ group.words }}</span>
      </summary>
      <ul>
        <li v-for="one in group.tasks" :key="one.system_id + one.task + one.due">
          {{ one.name }}, {{ one.system }} <span class="soft">· {{ one.words }}</span>
        </li>
      </ul>
      <v-btn
        v-if="group.key !== 'danger'"
        size="small"
        class="no-print"
        :loading="commands.busy.value"
        @click="skip(group)"
        >Skip these {{ group.tasks.length }}</v-btn
      >
    </details>
  </section>
</template>

<style scoped>
.missed {
  border-left: 4px solid var(--magenta);
  padding: 2px 14px 8px;
  margin-bottom: 14px;
}
summary {
  padding: 4px 0;
  cursor: pointer;
}
ul {
  list-style: none;
  columns: 2 320px;
  margin: 2px 0 8px 16px;
  font-size: 0.92rem;
}
li {
  break-inside: avoid;
}
</style>
