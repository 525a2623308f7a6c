<script setup lang="ts">
import { mdiChevronDown, mdiChevronRight } from '@mdi/js'
import { computed, reactive, ref } from 'vue'
import { api, command, ProblemError, type Schemas } from '../api/client'
import { useRefresh } from '../api/queries'
import { useNotices } from './notices'
import { inSessions } from './sessions'
import { BASE } from './example'

/** Entries of the ledger in words; a reading can be corrected, everything can be taken back. */
const props = defineProps<{ rows: (Schemas['RecordRow'] & { system?: string })[]; caption: string }>()
const notices = useNotices()
const refresh = useRefresh()
const sessions = computed(() => inSessions(props.rows))
const opened = reactive(new Set<number>())
const turn = (key: number) => (opened.has(key) ? opened.delete(key) : opened.add(key))
/** The row that is written at, and whether its value is corrected or a note added. */
const editing = ref<number>()
const noting = ref(false)
const text = ref('')
const problem = ref('')

function edit(row: Schemas['RecordRow'], note = false) {
  editing.value = row.id
  noting.value = note
  problem.value = ''
  text.value = note ? '' : (/-?[\d.,]+/.exec(row.words.replace('−', '-'))?.[0] ?? '')
}
async function keep(row: Schemas['RecordRow']) {
  const body = { text: text.value }
  try {
    const kept = await command((header) => {
      const params = { path: { entry_id: row.id }, header }
      return noting.value
        ? api.POST('/api/record/entries/{entry_id}/remarks', { params, body })
        : api.POST('/api/record/readings/{entry_id}/correct', { params, body })
    })
    editing.value = undefined
    if (noting.value) notices.recorded(kept)
    else notices.say(`${kept.words}; the old value stays in the record.`)
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
    <tbody v-for="{ key, rows: held } in sessions" :key="key">
      <tr v-if="held.length > 1">
        <td class="soft when">{{ held[0]!.day }} {{ held[0]!.time }}</td>
        <td v-if="held[0]!.system">{{ held[0]!.system }}</td>
        <td>
          <button class="session" type="button" :aria-expanded="opened.has(key)" @click="turn(key)">
            <v-icon :icon="opened.has(key) ? mdiChevronDown : mdiChevronRight" size="18" />
            Test session, {{ held.length }} results
          </button>
        </td>
        <td class="soft">{{ held.map((row) => row.words).join(' · ') }}</td>
        <td><button class="plain-link" type="button" @click="takeBack(held[0]!)">Undo all</button></td>
      </tr>
      <template v-for="row in held" :key="row.id">
        <tr v-if="held.length === 1 || opened.has(key)" :class="{ gone: row.gone, within: held.length > 1 }">
          <td class="soft when">{{ row.day }} {{ row.time }}</td>
          <td v-if="row.system">{{ row.system }}</td>
          <td>
            <form v-if="editing === row.id" @submit.prevent="keep(row)">
              <input
                v-model="text"
                class="field"
                :class="{ wide: noting }"
                :aria-label="noting ? `Note on ${row.words}` : `Corrected ${row.words}`"
                maxlength="500"
                :aria-invalid="!!problem"
              />
              <button class="plain-link" type="submit">Save</button>
              <button class="plain-link" type="button" @click="editing = undefined">Cancel</button>
              <span v-if="problem" class="magenta" role="alert">{{ problem }}</span>
            </form>
            <span v-else>{{ row.words }}</span>
          </td>
          <td class="soft">
            {{ row.gone ? 'undone or corrected' : row.detail }}
            <i v-for="said in row.remarks" :key="said" class="said">“{{ said }}”</i>
            <a
              v-for="picture in row.pictures"
              :key="picture"
              :href="`${BASE}/api/pictures/${picture}/file`"
              target="_blank"
              rel="noopener"
              ><img
                :src="`${BASE}/api/pictures/${picture}/thumb`"
                :alt="`Picture: ${row.words}`"
                loading="lazy"
            /></a>
          </td>
          <td>
            <template v-if="!row.gone">
              <button v-if="row.kind === 'reading'" class="plain-link" type="button" @click="edit(row)">
                Correct
              </button>
              <button
                class="plain-link"
                type="button"
                :aria-label="`Note on ${row.words}`"
                @click="edit(row, true)"
              >
                Note
              </button>
              <button v-if="held.length === 1" class="plain-link" type="button" @click="takeBack(row)">
                Undo
              </button>
            </template>
          </td>
        </tr>
      </template>
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
.session {
  display: inline-flex;
  align-items: center;
  min-height: 28px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 600;
  cursor: pointer;
}
.within td:first-child {
  padding-left: 18px;
}
.gone td {
  text-decoration: line-through;
  color: var(--soft);
}
td img {
  height: 40px;
  vertical-align: middle;
}
.said {
  display: block;
  color: var(--ink);
}
.field.wide {
  width: 16em;
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
