<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import type { Import } from './useImport'

/** What each column of a file is, and what holds for all of its rows. */
const props = defineProps<{
  item: Import
  choices: Schemas['ImportChoices']
  systems: { key: string; name: string }[]
}>()
const map = defineModel<Schemas['MapBody']>({ required: true })
const roles: Record<string, string> = {
  at: 'date and time',
  date: 'date',
  time: 'time',
  system: 'system',
  parameter: 'which parameter',
  value: 'value',
  unit: 'unit',
  instrument: 'instrument',
  scatter: 'scatter',
  note: 'note',
}
const taken = computed(() => Object.values(map.value.columns))
const says = (role: string) => taken.value.includes(role)
function put(column: string, role: string) {
  const columns = { ...map.value.columns }
  if (role) columns[column] = role
  else delete columns[column]
  map.value = { ...map.value, columns }
}
function putUnit(column: string, unit: string) {
  map.value = { ...map.value, units: { ...map.value.units, [column]: unit } }
}
const set = (field: keyof Schemas['MapBody'], value: string) => (map.value = { ...map.value, [field]: value })
const text = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value
const units = (column: string) => props.choices.units[map.value.columns[column] ?? ''] ?? []
</script>

<template>
  <div class="columns">
    <p v-if="Object.keys(item.fitting).length" class="small">
      Mapped before:
      <button
        v-for="(kept, name) in item.fitting"
        :key="name"
        class="plain-link"
        type="button"
        @click="map = { ...kept }"
      >
        {{ name }}
      </button>
    </p>
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th v-for="name in item.header" :key="name" scope="col">
              {{ name }}
              <select
                :value="map.columns[name] ?? ''"
                :aria-label="`Column ${name} is`"
                @change="put(name, text($event))"
              >
                <option value="">left out</option>
                <option v-for="role in choices.roles" :key="role" :value="role">{{ roles[role] }}</option>
                <option v-for="(label, key) in choices.parameters" :key="key" :value="key">
                  values of {{ label }}
                </option>
              </select>
              <select
                v-if="units(name).length > 1"
                :value="map.units?.[name] ?? units(name)[0]"
                :aria-label="`Unit of column ${name}`"
                @change="putUnit(name, text($event))"
              >
                <option v-for="unit in units(name)" :key="unit">{{ unit }}</option>
              </select>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, index) in item.sample" :key="index">
            <td v-for="(cell, place) in row" :key="place">{{ cell }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="all">
      <label v-if="!says('system')">
        System of all rows
        <select :value="map.system" @change="set('system', text($event))">
          <option value="">which?</option>
          <option v-for="one in systems" :key="one.key">{{ one.name }}</option>
        </select>
      </label>
      <label>
        Dates are written
        <select :value="map.dates" @change="set('dates', text($event))">
          <option v-for="(example, key) in choices.dates" :key="key" :value="key">{{ example }}</option>
        </select>
      </label>
      <label>
        Decimals have a
        <select :value="map.decimal" @change="set('decimal', text($event))">
          <option value=".">point</option>
          <option value=",">comma</option>
        </select>
      </label>
      <label v-if="!says('instrument')">
        Measured with
        <input :value="map.instrument" placeholder="imported" @input="set('instrument', text($event))" />
      </label>
      <label>
        Save this mapping as
        <input :value="map.keep_as" placeholder="not saved" @input="set('keep_as', text($event))" />
      </label>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  gap: 12px;
}
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  font-size: 0.875rem;
}
th {
  text-align: left;
  vertical-align: top;
  padding: 0 14px 6px 0;
  display: table-cell;
}
th select {
  display: block;
  margin-top: 4px;
  font-weight: 400;
}
td {
  padding: 2px 14px 2px 0;
  border-top: 1px solid var(--line);
  white-space: nowrap;
}
.all {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 20px;
}
label {
  display: grid;
  gap: 3px;
  font-size: 0.875rem;
}
select,
input {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 5px 8px;
  color: var(--ink);
  background: var(--card);
}
option {
  color: #14303d;
}
.small {
  font-size: 0.875rem;
  display: flex;
  gap: 14px;
}
</style>
