<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRouter } from 'vue-router'
import { api, command, type Schemas } from '../../api/client'
import { setupHistoryQuery, useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

/** What each edit changed, which volume counted when, and the way out of use and back. */
const props = defineProps<{ system: Schemas['SystemAnswer'] }>()
const { data } = useQuery(() => setupHistoryQuery(props.system.id))
const notices = useNotices()
const refresh = useRefresh()
const router = useRouter()
const params = { path: { system_id: props.system.id } }
const archive = () =>
  command((header) => api.POST('/api/systems/{system_id}/archive', { params: { ...params, header } }))
const restore = () =>
  command((header) => api.POST('/api/systems/{system_id}/restore', { params: { ...params, header } }))
async function turn() {
  const away = !props.system.archived
  try {
    const done = await (away ? archive() : restore())
    notices.say(done.words, away ? restore : archive)
    await refresh()
    await router.push({ name: 'harbour' })
  } catch (fault) {
    notices.fail(fault)
  }
}
</script>

<template>
  <p v-if="data && !data.versions.length" class="note">Nothing has changed since set-up.</p>
  <ul v-if="data" class="history">
    <li v-for="one in data.versions" :key="one.at">
      <b>{{ one.day }}</b>
      <span v-for="change in one.changes" :key="change">{{ change }}</span>
    </li>
    <li>
      <b>Net volume</b><span v-for="one in data.volumes" :key="one">{{ one }}</span>
    </li>
  </ul>
  <div>
    <v-btn variant="outlined" size="small" @click="turn">{{
      system.archived ? 'Restore this system' : 'Archive this system'
    }}</v-btn>
    <p class="note">
      An archived system disappears from Harbour and the rota. Its record stays in the log, and you can
      restore it.
    </p>
  </div>
</template>

<style scoped>
.history {
  list-style: none;
  padding: 0;
}
li {
  display: grid;
  gap: 0 16px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  font-size: 0.92rem;
}
</style>
