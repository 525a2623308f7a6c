<script setup lang="ts">
import { ref } from 'vue'
import { api, command, ProblemError, type Schemas } from '../api/client'
import { useRefresh } from '../api/queries'
import { useNotices } from './notices'

/** Entries of the ledger in words; a reading can be corrected, everything can be taken back. */
defineProps<{ rows: (Schemas['RecordRow'] & { system?: string })[]; caption: string }>()
const notices = useNotices()
const refresh = useRefresh()
const editing = ref<number>()
const text = ref('')
const problem = ref('')

function edit(row: Schemas['RecordRow']) {
  editing.value = row.id
  problem.value = ''
  text.value = /-?[\d.,]+/.exec(row.words.replace('−', '-'))?.[0] ?? ''
}
async function correct(row: Schemas['RecordRow']) {
  try {
    const kept = await command((header) =>
      api.POST('/api/record/readings/{entry_id}/correct', {
        params: { path: { entry_id: row.id }, header },
        body: { text: text.value },
      }),
    )
    editing.value = undefined
    notices.say(`${kept.words}; the old value stays in the record.`)
    await refresh()
  } catch (fault) {
    problem.value = fault instanceof ProblemError ? fault.message : String(fault)
  }
}
async function takeBack(row: Schemas['RecordRow']) {
  try {
    // A row out of a file goes alone; what was entered together goes together.
    const alone = row.command.startsWith('import-')
    const kept = await command((header) =>
      alone
        ? api.POST('/api/record/entries/{entry_id}/undo', { params: { path: { entry_id: row.id }, header } })
        : api.POST('/api/record/{command}/undo', { params: { path: { command: row.command }, header } }),
    )
    notices.say(`${kept.words}; the entries stay in the log, struck out.`)
    await refresh()
  } catch (fault) {
    notices.fail(fault)
  }
}
</script>

<template>
  <table>
    <caption class="visually-hidden">
      {{
        caption
      }}
    </caption>
    <tbody>
      <tr v-for="row in rows" :key="row.id" :class="{ gone: row.gone }">
        <td class="soft when">{{ row.day }} {{ row.time }}</td>
        <td v-if="row.system">{{ row.system }}</td>
        <td>
          <form v-if="editing === row.id" @submit.prevent="correct(row)">
            <input
              v-model="text"
              class="field"
              :aria-label="`Corrected ${row.words}`"
              :aria-invalid="!!problem"
            />
            <button class="plain-link" type="submit">save</button>
            <button class="plain-link" type="button" @click="editing = undefined">cancel</button>
            <span v-if="problem" class="magenta" role="alert">{{ problem }}</span>
          </form>
          <span v-else>{{ row.words }}</span>
        </td>
        <td class="soft">
          {{ row.gone ? 'undone or corrected' : row.detail }}
          <a
            v-for="picture in row.pictures"
            :key="picture"
            :href="`/api/pictures/${picture}/file`"
            target="_blank"
            rel="noopener"
            ><img :src="`/api/pictures/${picture}/thumb`" :alt="`Picture: ${row.words}`" loading="lazy"
          /></a>
        </td>
        <td>
          <template v-if="!row.gone">
            <button v-if="row.kind === 'reading'" class="plain-link" type="button" @click="edit(row)">
              correct
            </button>
            <button class="plain-link" type="button" @click="takeBack(row)">undo</button>
          </template>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 0.875rem;
  margin-top: 6px;
}
.when,
td:last-child {
  white-space: nowrap;
}
td {
  padding: 3px 10px 3px 0;
  border-bottom: 1px solid var(--line);
}
.gone td {
  text-decoration: line-through;
  color: var(--soft);
}
td img {
  height: 40px;
  vertical-align: middle;
}
.field {
  width: 6em;
  border: 1px solid var(--soft);
  border-radius: 3px;
  padding: 1px 5px;
  color: var(--ink);
}
td .plain-link {
  min-height: 24px;
}
.plain-link + .plain-link,
.field + .plain-link {
  margin-left: 12px;
}
@media (max-width: 700px) {
  tr {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    border-bottom: 1px solid var(--line);
    padding: 5px 0;
  }
  td {
    border: 0;
    padding: 1px 0;
  }
  td:nth-child(even) {
    text-align: right;
  }
  td:last-child {
    grid-column: 1 / -1;
    text-align: left;
  }
}
</style>
