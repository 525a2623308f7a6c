<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import MeasureInput from '../../parts/MeasureInput.vue'
import type { SetupModel } from './useSetup'

/** Gear, where it sits, and how much water stands over it: what a falling level leaves bare. */
const props = defineProps<{ set: SetupModel; setup: Schemas['SetupAnswer'] }>()
const gear = computed(() => props.set.form.gear)
/** A number is refused at its kind; what is no number at its place in the list that was sent. */
function wrong(kind: string) {
  const sent = Object.keys(gear.value).filter((key) => gear.value[key]!.on)
  return props.set.wrong(`gear.${kind}.cover_cm`) ?? props.set.wrong(`gear.${sent.indexOf(kind)}.cover_cm`)
}
const PLACES = { display: 'in the display', sump: 'in the sump', outside: 'outside' }
</script>

<template>
  <ul class="gear">
    <li v-for="one in setup.gear" :key="one.key">
      <label><input v-model="gear[one.key]!.on" type="checkbox" /> {{ one.name }}</label>
      <select
        v-if="gear[one.key]!.on"
        v-model="gear[one.key]!.place"
        class="inline"
        :aria-label="`Where: ${one.name}`"
      >
        <option v-for="(words, key) in PLACES" :key="key" :value="key">{{ words }}</option>
      </select>
      <label v-if="gear[one.key]!.on && gear[one.key]!.place === 'display'" class="cover">
        <MeasureInput
          :model-value="gear[one.key]!.cover"
          unit="cm"
          :label="`Water over it: ${one.name}`"
          :wrong="!!wrong(one.key)"
          @update:model-value="gear[one.key]!.cover = String($event)"
        />
        <span class="unit">of water over it, pumps off</span>
      </label>
      <i class="soft why">{{ one.remark }}</i>
      <span v-if="wrong(one.key)" class="magenta why" role="alert">{{ wrong(one.key) }}</span>
    </li>
  </ul>
</template>

<style scoped>
.gear {
  list-style: none;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 150px 130px 240px minmax(0, 1fr);
  gap: 2px 16px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  align-items: baseline;
}
.why {
  grid-column: 4;
  font-size: 0.9rem;
}
.cover {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.cover :deep(input) {
  width: 64px;
  text-align: right;
  padding: 4px 8px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
@media (max-width: 900px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
  .why {
    grid-column: 1;
  }
}
</style>
