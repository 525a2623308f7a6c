<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import type { useBatch } from './useBatch'

/** What can be done with a batch where it stands. */
const props = defineProps<{ batch: ReturnType<typeof useBatch>; data: Schemas['BatchAnswer'] }>()
const emit = defineEmits<{ work: [] }>()
const MOVES: Record<string, { name: string; unit: string }> = {
  salted: { name: 'Salt is in', unit: 'g' },
  used: { name: 'Use some of it', unit: 'L' },
  fresh: { name: 'Fresh water added', unit: 'L' },
  salt: { name: 'Salt added', unit: 'g' },
  dosed: { name: 'Dose added', unit: 'g' },
  out: { name: 'Some taken out', unit: 'L' },
  thrown: { name: 'Throw it away', unit: 'L' },
}
const DOSES = ['Na2CO3', 'NaHCO3', 'CaCl2·2H2O', 'MgCl2·6H2O', 'KCl']
const move = ref('')
const amount = ref('')
const item = ref(DOSES[0]!)
const system = ref(props.data.systems[0]?.id)
const ended = computed(() => ['used up', 'thrown away'].includes(props.data.phase))
const possible = computed(() =>
  Object.keys(MOVES).filter((key) => (props.data.phase === 'planned') === (key === 'salted')),
)
const wrong = computed(() =>
  ['amount', 'item', 'system_id', 'kind'].map((name) => props.batch.refused.value?.at(name)).find(Boolean),
)

async function keep() {
  const kept = await props.batch.happened({
    kind: move.value as Schemas['BatchKind'],
    amount: amount.value,
    item: move.value === 'dosed' ? item.value : '',
    system_id: move.value === 'used' ? system.value : null,
  })
  if (kept) [move.value, amount.value] = ['', '']
}
</script>

<template>
  <div v-if="!ended" class="moves no-print">
    <v-btn v-if="data.run_id || data.phase === 'planned'" block variant="flat" @click="emit('work')">{{
      data.run_id ? 'Continue at the tank' : 'Mix it, step by step'
    }}</v-btn>
    <v-btn
      v-else-if="['matched', 'left over'].includes(data.phase)"
      block
      variant="flat"
      :to="{ name: 'change', params: { system: data.for_system }, query: { batch: data.id } }"
      >Plan a change with it</v-btn
    >
    <v-btn
      v-if="['mixing', 'resting'].includes(data.phase)"
      block
      @click="batch.happened({ kind: 'matched' })"
      >It matches: cover it</v-btn
    >
    <v-btn v-if="data.phase !== 'planned'" block :to="{ name: 'label', params: { batch: data.id } }"
      >Label to print</v-btn
    >
    <label>
      Record
      <select v-model="move" aria-label="What happened">
        <option value="">something else…</option>
        <option v-for="key in possible" :key="key" :value="key">{{ MOVES[key]!.name }}</option>
      </select>
    </label>
    <form v-if="move" @submit.prevent="keep">
      <select v-if="move === 'dosed'" v-model="item" aria-label="Compound">
        <option v-for="one in DOSES" :key="one">{{ one }}</option>
      </select>
      <select v-if="move === 'used'" v-model="system" aria-label="System it went into">
        <option v-for="one in data.systems" :key="one.id" :value="one.id">{{ one.name }}</option>
      </select>
      <FieldText v-model="amount" label="How much" :unit="MOVES[move]!.unit" :error="wrong" autofocus />
      <v-btn type="submit" :loading="batch.busy.value">Save</v-btn>
    </form>
  </div>
</template>

<style scoped>
.moves,
form {
  display: grid;
  gap: 10px;
}
select {
  border: 0;
  border-bottom: 1px dotted var(--ink);
  color: var(--ink);
  font-weight: 600;
}
</style>
