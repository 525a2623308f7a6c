<script setup lang="ts">
import { ref } from 'vue'
import ColumnTable from './ColumnTable.vue'
import { useImport } from './useImport'

/** Readings in: choose a file, say what its columns are, see what would be kept, keep it. */
defineProps<{ systems: { key: string; name: string }[] }>()
const { choices, item, map, refused, busy, running, bring, send, show } = useImport()
const over = ref(false)
function chosen(files?: FileList | null) {
  over.value = false
  if (files?.[0]) void bring(files[0])
}
const states: Record<string, string> = {
  checking: 'being checked',
  checked: 'checked, nothing saved yet',
  keeping: 'being saved',
  done: 'kept',
  stopped: 'stopped, nothing of it counts',
  taken_back: 'undone',
  failed: 'failed, nothing of it counts',
}
</script>

<template>
  <section class="card bring" aria-labelledby="bring-title">
    <h2 id="bring-title">Import readings</h2>
    <label
      class="drop"
      :class="{ over }"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="chosen($event.dataTransfer?.files)"
    >
      <input
        type="file"
        accept=".csv,.tsv,.txt,.json,text/csv,application/json"
        @change="chosen(($event.target as HTMLInputElement).files)"
      />
      A table as CSV, with any columns, or a laboratory's report as JSON
    </label>
    <p v-if="refused" class="magenta" role="alert">{{ refused.message }}</p>
    <template v-if="item">
      <p>
        <b>{{ item.name }}</b> <span class="soft">{{ states[item.state] }} {{ item.said }}</span>
      </p>
      <div v-if="running" class="progress">
        <progress :value="item.share" max="1" aria-label="How much of the file is read" />
        <span>{{ Math.round(item.share * 100) }} % · {{ item.good }} readings</span>
        <button class="plain-link" type="button" @click="send('stop')">stop</button>
      </div>
      <ColumnTable
        v-if="choices && ['new', 'checked', 'failed', 'stopped'].includes(item.state)"
        v-model="map"
        :item="item"
        :choices="choices"
        :systems="systems"
      />
      <div v-if="item.state === 'checked'" class="found">
        <table v-if="item.first_rows.length" class="small">
          <caption>
            Understood as
          </caption>
          <tbody>
            <tr v-for="(row, index) in item.first_rows.slice(0, 4)" :key="index">
              <td>{{ row.when }}</td>
              <td>{{ systems.find((one) => one.key === row.system)?.name }}</td>
              <td>{{ row.what }}</td>
              <td class="soft">{{ row.instrument }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="item.probes.length" class="note">
          These readings are so close together that they come from a probe: {{ item.probes.join('; ') }}. They
          are stored separately, drawn as a line, and averaged over longer times.
        </p>
        <details v-if="item.bad_rows.length">
          <summary>{{ item.bad }} skipped, with line and reason</summary>
          <ul class="small">
            <li v-for="row in item.bad_rows" :key="row.line">line {{ row.line }}: {{ row.reason }}</li>
          </ul>
        </details>
      </div>
      <div class="ways">
        <v-btn
          v-if="item.state === 'checked' && item.good"
          variant="flat"
          :loading="busy"
          @click="send('keep')"
          >Save {{ item.good }} readings</v-btn
        >
        <v-btn
          v-if="['new', 'checked', 'failed', 'stopped'].includes(item.state)"
          :variant="item.state === 'new' ? 'flat' : 'outlined'"
          :loading="busy"
          @click="send('check')"
          >{{ item.state === 'new' ? 'Check the file' : 'Check again' }}</v-btn
        >
        <v-btn v-if="item.state === 'done'" @click="send('take-back')">Undo</v-btn>
        <v-btn v-if="item.state === 'taken_back'" @click="send('again')">Restore</v-btn>
      </div>
    </template>
    <details v-if="choices?.imports.length" class="small">
      <summary>Earlier files</summary>
      <ul>
        <li v-for="one in choices.imports" :key="one.id">
          <button class="plain-link" type="button" @click="show(one)">{{ one.name }}</button>
          <span class="soft">{{ states[one.state] }} {{ one.said }}</span>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
.bring {
  padding: 14px 18px;
  display: grid;
  gap: 12px;
  margin-bottom: 12px;
}
.drop {
  border: 1.5px dashed var(--soft);
  border-radius: 6px;
  padding: 14px;
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
}
.drop.over {
  background: var(--shallow);
}
.progress,
.ways {
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
}
progress {
  width: 240px;
  accent-color: var(--deep);
}
.small {
  font-size: 0.875rem;
}
.small li {
  display: flex;
  gap: 12px;
}
ul {
  list-style: none;
  padding: 4px 0;
  max-height: 220px;
  overflow: auto;
}
table {
  border-collapse: collapse;
}
caption {
  text-align: left;
  font-style: italic;
  color: var(--soft);
}
td {
  padding: 2px 16px 2px 0;
}
summary {
  cursor: pointer;
}
</style>
