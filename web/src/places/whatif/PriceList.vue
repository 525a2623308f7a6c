<script setup lang="ts">
import { api, command, ProblemError, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { typed, written } from '../../parts/numbers'
import { useNotices } from '../../parts/notices'

/** What a kilogram costs, so that plans can be told apart by cost. */
const props = defineProps<{ system: number; offer: Schemas['WhatIfOffer'] }>()
const emit = defineEmits<{ kept: [] }>()
const notices = useNotices()
const refresh = useRefresh()
const kinds = [
  ['salt', props.offer.salts],
  ['additive', props.offer.additives],
] as const

async function keep(kind: 'salt' | 'additive', key: string, text: string) {
  try {
    await command((header) =>
      api.POST('/api/systems/{system_id}/whatif/prices', {
        params: { path: { system_id: props.system }, header },
        body: { kind, id: Number(key), price_kg: text.trim() ? typed(text) : null },
      }),
    )
    emit('kept')
    await refresh()
  } catch (fault) {
    if (!(fault instanceof ProblemError)) throw fault
    notices.fail(fault)
  }
}
</script>

<template>
  <details class="prices no-print">
    <summary>Prices per kilogram, in your currency</summary>
    <div class="list">
      <template v-for="[kind, items] in kinds" :key="kind">
        <label v-for="item in items" :key="item.key">
          {{ item.name }}
          <input
            :value="item.price_kg == null ? '' : written(item.price_kg)"
            inputmode="decimal"
            placeholder="not known"
            @change="keep(kind, item.key, ($event.target as HTMLInputElement).value)"
          />
        </label>
      </template>
    </div>
  </details>
</template>

<style scoped>
.prices {
  margin: 10px 0;
  font-size: 0.9rem;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
.list {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 6px 20px;
  padding: 8px 0;
}
label {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
input {
  width: 7em;
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 2px 6px;
  color: var(--ink);
  background: var(--card);
}
</style>
