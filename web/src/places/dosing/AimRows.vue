<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { useCorrection } from './useCorrection'

/** What could be corrected: ticked with its target and what it is raised with. */
const props = defineProps<{
  correction: ReturnType<typeof useCorrection>
  aims: Schemas['AimOffer'][]
  additives: Schemas['AdditiveShown'][]
}>()
const named = (ids: number[]) => props.additives.filter((one) => ids.includes(one.id))
</script>

<template>
  <table class="values">
    <caption class="visually-hidden">
      What is corrected
    </caption>
    <thead>
      <tr>
        <th scope="col">Correct</th>
        <th scope="col" class="number">now</th>
        <th scope="col" class="wide-only">band</th>
        <th scope="col">to</th>
        <th scope="col">by</th>
        <th scope="col" class="wide-only">at most a day</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="aim in aims" :key="aim.parameter">
        <th scope="row">
          <label>
            <input
              type="checkbox"
              :checked="!!correction.taken(aim)"
              :disabled="!aim.additive_ids.length"
              @change="correction.take(aim, ($event.target as HTMLInputElement).checked)"
            />
            {{ aim.name }}
          </label>
        </th>
        <td class="number" :class="{ magenta: aim.low }">
          <b>{{ aim.now }}</b> <span class="unit">{{ aim.unit }}</span>
        </td>
        <td class="soft wide-only">{{ aim.band }}</td>
        <td>
          <template v-if="correction.taken(aim)">
            <input
              v-model="correction.taken(aim)!.target"
              class="target"
              inputmode="decimal"
              :aria-label="`Target of ${aim.name}`"
              :aria-invalid="!!correction.wrong(aim)"
            />
            <p v-if="correction.wrong(aim)" class="magenta small" role="alert">{{ correction.wrong(aim) }}</p>
          </template>
        </td>
        <td>
          <select
            v-if="correction.taken(aim)"
            v-model="correction.taken(aim)!.additive_id"
            class="inline"
            :aria-label="`Additive for ${aim.name}`"
          >
            <option v-for="one in named(aim.additive_ids)" :key="one.id" :value="one.id">
              {{ one.name }}
            </option>
          </select>
          <span v-else-if="!aim.additive_ids.length" class="soft small">nothing on the Shelf raises it</span>
        </td>
        <td class="soft wide-only">{{ aim.limit }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
.target {
  width: 4.2em;
  font-weight: 600;
  color: var(--ink);
  border: 0;
  border-bottom: 2px dotted var(--ink);
}
.target[aria-invalid='true'] {
  color: var(--magenta);
  border-color: var(--magenta);
}
.small {
  font-size: 0.875rem;
}
.wide-only {
  white-space: nowrap;
}
select {
  max-width: 10em;
}
@media (max-width: 600px) {
  .target {
    width: 3.2em;
  }
  select {
    max-width: 5.4em;
  }
}
</style>
