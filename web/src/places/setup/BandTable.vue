<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import type { BandTyped } from './setupForm'

/** Target bands, and the one level inside each that every plan leads to. */
const props = defineProps<{
  setup: Schemas['SetupAnswer']
  bands: Record<string, BandTyped>
  usual: Record<string, string>
  wrong: (field: string) => string | undefined
}>()
const emit = defineEmits<{ preset: [key: string] }>()
const FIELDS = ['low', 'high', 'aim'] as const
const NAMES = { low: 'lower end', high: 'upper end', aim: 'aim' }
/** Those that only a laboratory or a probe measures are shown when they are asked for, or have a band. */
const all = ref(false)
const set = (parameter: string) =>
  !!props.bands[parameter]?.low.trim() || !!props.bands[parameter]?.high.trim()
const rows = computed(() => props.setup.bands.filter((row) => all.value || !row.more || set(row.parameter)))
const fields = [...FIELDS, 'aim_reason'] as const
const error = (parameter: string) =>
  fields.map((field) => props.wrong(`bands.${parameter}.${field}`)).find((words) => words)
function put(parameter: string, field: keyof BandTyped, event: Event) {
  // The bands are the set-up's own reactive object, edited in place.
  const band = props.bands[parameter]!
  band[field] = (event.target as HTMLInputElement).value
}
</script>

<template>
  <div>
    <div class="head">
      <label class="soft"
        >start from
        <select
          aria-label="Preset of target bands"
          @change="emit('preset', ($event.target as HTMLSelectElement).value)"
        >
          <option value="" disabled selected>a preset</option>
          <option v-for="one in setup.presets" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select></label
      >
      <p class="soft">The aim is the level that every plan leads to. Leave it empty for the usual one.</p>
    </div>
    <div class="rows">
      <div v-for="row in rows" :key="row.parameter" class="band">
        <span class="name"
          >{{ row.name }} <span class="unit">{{ row.unit }}</span></span
        >
        <label v-for="field in FIELDS" :key="field" class="soft"
          >{{ field === 'aim' ? 'aim' : field === 'low' ? 'from' : 'to' }}
          <input
            :value="bands[row.parameter]?.[field]"
            inputmode="decimal"
            :placeholder="field === 'aim' ? usual[row.parameter] : ''"
            :aria-label="`${row.name}, ${NAMES[field]}`"
            :aria-invalid="!!wrong(`bands.${row.parameter}.${field}`)"
            @input="put(row.parameter, field, $event)"
        /></label>
        <label v-if="bands[row.parameter]?.aim.trim()" class="soft why"
          >why this aim
          <input
            :value="bands[row.parameter]?.reason"
            maxlength="200"
            :aria-label="`${row.name}, why this aim`"
            @input="put(row.parameter, 'reason', $event)"
        /></label>
        <span v-if="error(row.parameter)" class="magenta small" role="alert">{{ error(row.parameter) }}</span>
      </div>
    </div>
    <button v-if="!all" type="button" class="plain-link more" @click="all = true">
      What a laboratory or a probe measures
    </button>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: baseline;
  margin-bottom: 8px;
}
.rows {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(310px, 1fr));
  gap: 8px 26px;
}
.band {
  display: grid;
  grid-template-columns: 1fr repeat(3, 66px);
  gap: 8px;
  align-items: end;
}
.band label {
  display: grid;
  font-size: 0.78rem;
}
.why {
  grid-column: 1 / -1;
}
input {
  text-align: right;
  font-weight: 600;
  padding: 5px 8px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
  width: 100%;
  font-size: 1rem;
}
input::placeholder {
  font-weight: 400;
  color: var(--soft);
}
.why input {
  text-align: left;
  font-weight: 400;
}
input[aria-invalid='true'] {
  border-color: var(--magenta);
}
select {
  border: 0;
  border-bottom: 1px dotted var(--ink);
  color: var(--ink);
}
option {
  color: #14303d;
}
.more {
  margin-top: 10px;
}
.small {
  font-size: 0.8rem;
  grid-column: 1 / -1;
}
</style>
