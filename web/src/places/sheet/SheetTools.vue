<script setup lang="ts">
import { mdiMagnifyMinusOutline, mdiMagnifyPlusOutline } from '@mdi/js'
import type { Schemas } from '../../api/client'
import { drawingOf, saveDrawing } from './drawing'
import { SPANS, type SpanName, type TimeWindow } from './timeWindow'

/** What is shown of a sheet: its strips, how much time, and in which form it is taken along. */
const props = defineProps<{
  sheet: Schemas['Sheet']
  shown: Schemas['Strip'][]
  view: TimeWindow
  table: boolean
  box?: HTMLElement
}>()
defineEmits<{ 'update:table': [value: boolean]; toggle: [parameter: string]; add: [] }>()
const spans = Object.keys(SPANS) as SpanName[]
function save(kind: 'svg' | 'png') {
  if (!props.box) return
  const day = props.sheet.now.slice(0, 10)
  const drawing = drawingOf(props.box, `${props.sheet.name}, ${day}`)
  void saveDrawing(drawing, `${props.sheet.name.toLowerCase().replace(/\W+/g, '-')}-${day}`, kind)
}
const print = () => window.print()
</script>

<template>
  <div class="tools no-print">
    <fieldset>
      <legend class="visually-hidden">Strips to show</legend>
      <label v-for="strip in sheet.strips" :key="strip.parameter">
        <input
          type="checkbox"
          :checked="shown.some((one) => one.parameter === strip.parameter)"
          @change="$emit('toggle', strip.parameter)"
        />
        {{ strip.name }}
      </label>
    </fieldset>
    <div class="row">
      <button class="plain-link strong" type="button" aria-keyshortcuts="a" @click="$emit('add')">
        Add or plan
      </button>
      <span v-if="!table" class="segments" role="group" aria-label="How much time">
        <button
          v-for="name in spans"
          :key="name"
          type="button"
          :aria-pressed="view.chosen.value === name"
          @click="view.choose(name)"
        >
          {{ name }}
        </button>
      </span>
      <span v-if="!table" class="group">
        <button class="plain-link" type="button" aria-label="Wider" title="Wider (−)" @click="view.zoom(1.5)">
          <v-icon :icon="mdiMagnifyMinusOutline" size="18" />
        </button>
        <button
          class="plain-link"
          type="button"
          aria-label="Closer"
          title="Closer (+)"
          @click="view.zoom(1 / 1.5)"
        >
          <v-icon :icon="mdiMagnifyPlusOutline" size="18" />
        </button>
        <button class="plain-link" type="button" title="0" @click="view.reset()">Now</button>
      </span>
      <span class="group end">
        <button class="plain-link" type="button" @click="$emit('update:table', !table)">
          {{ table ? 'As strips' : 'As a table' }}
        </button>
        <template v-if="!table">
          <button class="plain-link" type="button" @click="save('svg')">SVG</button>
          <button class="plain-link" type="button" @click="save('png')">PNG</button>
        </template>
        <button class="plain-link" type="button" @click="print">Print</button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.tools {
  display: grid;
  gap: 6px;
  font-size: 0.85rem;
  margin: 6px 0 4px;
}
fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
}
label {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
input {
  accent-color: var(--ink);
}
.row,
.group {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.end {
  margin-left: auto;
}
.group button,
.row > button {
  min-width: 24px;
  min-height: 24px;
}
.strong {
  font-weight: 700;
}
@media (max-width: 900px) {
  fieldset {
    gap: 8px 14px;
  }
  input {
    width: 18px;
    height: 18px;
  }
}
</style>
