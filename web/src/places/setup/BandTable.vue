<script setup lang="ts">
import type { Schemas } from '../../api/client'

const props = defineProps<{
  setup: Schemas['SetupAnswer']
  bands: Record<string, { low: string; high: string }>
  wrong: (field: string) => string | undefined
}>()
const emit = defineEmits<{ preset: [key: string] }>()
const error = (parameter: string) =>
  props.wrong(`bands.${parameter}.low`) ?? props.wrong(`bands.${parameter}.high`)
function put(parameter: string, end: 'low' | 'high', event: Event) {
  // The bands are the set-up's own reactive object, edited in place.
  const band = props.bands[parameter]!
  band[end] = (event.target as HTMLInputElement).value
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
    </div>
    <div class="rows">
      <div v-for="row in setup.bands" :key="row.parameter" class="band">
        <span class="name"
          >{{ row.name }} <span class="unit">{{ row.unit }}</span></span
        >
        <input
          v-for="end in ['low', 'high'] as const"
          :key="end"
          :value="bands[row.parameter]?.[end]"
          inputmode="decimal"
          :aria-label="`${row.name}, ${end === 'low' ? 'lower' : 'upper'} end`"
          :aria-invalid="!!wrong(`bands.${row.parameter}.${end}`)"
          @input="put(row.parameter, end, $event)"
        />
        <span v-if="error(row.parameter)" class="magenta small" role="alert">{{ error(row.parameter) }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 18px;
  align-items: baseline;
  margin-bottom: 8px;
}
.rows {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 6px 26px;
}
.band {
  display: grid;
  grid-template-columns: 1fr 76px 76px;
  gap: 8px;
  align-items: center;
}
input {
  text-align: right;
  font-weight: 600;
  padding: 5px 8px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
  width: 100%;
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
.small {
  font-size: 0.8rem;
  grid-column: 1 / -1;
}
</style>
