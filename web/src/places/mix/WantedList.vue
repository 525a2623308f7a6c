<script setup lang="ts">
import MeasureInput from '../../parts/MeasureInput.vue'
import { fieldText, unitRead } from '../../parts/measures'
import type { useMix, Wanted } from './useMix'

/** The changes that new water is wanted for; what is ticked is mixed for, with its litres and salinity to edit. */
const props = defineProps<{ mix: ReturnType<typeof useMix>; wanted: Wanted[] }>()
const portion = (one: Wanted) => props.mix.request.portions[props.mix.place(one)]
const problem = (one: Wanted, field: string) => props.mix.wrong(`portions.${props.mix.place(one)}.${field}`)
</script>

<template>
  <p v-if="!wanted.length" class="note">No change is due within two weeks: plan one on the Change page.</p>
  <ul>
    <li v-for="one in wanted" :key="`${one.system_id} ${one.step_id}`">
      <label>
        <input
          type="checkbox"
          :checked="!!portion(one)"
          @change="mix.take(one, ($event.target as HTMLInputElement).checked)"
        />
        <b>{{ one.name }}</b>
        <span class="soft">{{ one.step_id ? 'planned' : 'routine' }}, {{ one.when }}</span>
      </label>
      <span v-if="portion(one)" class="what">
        <MeasureInput
          v-model="portion(one)!.litres"
          unit="L"
          :label="`Volume for ${one.name}`"
          :wrong="!!problem(one, 'litres')"
        />
        at
        <input
          v-model="portion(one)!.salinity"
          inputmode="decimal"
          :aria-label="`Salinity for ${one.name}`"
          :aria-invalid="!!problem(one, 'salinity')"
        />
        {{ one.salinity_unit }}
      </span>
      <span v-else class="soft what"
        >{{ fieldText(one.litres, 'L') }} {{ unitRead('L') }} at {{ one.salinity }}
        {{ one.salinity_unit }}</span
      >
      <p
        v-for="field in ['litres', 'salinity'].filter((name) => portion(one) && problem(one, name))"
        :key="field"
        class="magenta"
        role="alert"
      >
        {{ problem(one, field) }}
      </p>
    </li>
  </ul>
  <p v-if="mix.wrong('portions')" class="magenta" role="alert">{{ mix.wrong('portions') }}</p>
</template>

<style scoped>
ul {
  list-style: none;
  margin-bottom: 10px;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  flex: 1;
  min-width: 220px;
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
.what :deep(input) {
  width: 3.6em;
  text-align: center;
  font-weight: 600;
  color: var(--ink);
  border: 0;
  border-bottom: 2px dotted var(--ink);
}
[aria-invalid='true'] {
  color: var(--magenta) !important;
  border-color: var(--magenta) !important;
}
</style>
