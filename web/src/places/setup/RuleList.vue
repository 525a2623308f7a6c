<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { answer, api } from '../../api/client'
import { rulesQuery, useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

/** The rules of judgement, each with what it looks for, and a switch. */
const props = defineProps<{ system: number }>()
const { data } = useQuery(() => rulesQuery(props.system))
const refresh = useRefresh()
const notices = useNotices()
async function put(rule: string, on: boolean) {
  const path = { system_id: props.system, rule }
  try {
    await answer(api.PUT('/api/systems/{system_id}/rules/{rule}', { params: { path }, body: { on } }))
  } catch (fault) {
    notices.fail(fault)
  }
  await refresh()
}
</script>

<template>
  <div v-if="data">
    <p class="note">In order of priority. A rule that is switched off says nothing for this system.</p>
    <ul>
      <li v-for="rule in data" :key="rule.key">
        <label>
          <input
            type="checkbox"
            :checked="rule.on"
            @change="put(rule.key, ($event.target as HTMLInputElement).checked)"
          />
          {{ rule.name }}
        </label>
        <span class="soft">{{ rule.about }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin-top: 8px;
}
li {
  display: grid;
  grid-template-columns: 250px 1fr;
  gap: 2px 14px;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  font-size: 0.9rem;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  font-weight: 600;
}
input {
  accent-color: var(--ink);
}
@media (max-width: 700px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
