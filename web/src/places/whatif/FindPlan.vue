<script setup lang="ts">
import { reactive, ref } from 'vue'
import { answer, api, type ProblemError, type Schemas, refusal } from '../../api/client'
import { typed } from '../../parts/numbers'

/** The cheapest plan that holds every band, within what the keeper allows; or the nearest, and what is in the way. */
const props = defineProps<{ system: number }>()
const emit = defineEmits<{ take: [variant: Schemas['VariantBody']] }>()
const allowed = reactive({ minutes: '240', two_part: true, limewater: false, continuous: false })
const found = ref<Schemas['FoundPlan']>()
const problem = ref<ProblemError>()
let asking: AbortController | undefined
const busy = ref(false)

async function find() {
  asking?.abort()
  const mine = (asking = new AbortController())
  busy.value = true
  problem.value = found.value = undefined
  try {
    found.value = await answer(
      api.POST('/api/systems/{system_id}/finder', {
        params: { path: { system_id: props.system } },
        body: { ...allowed, minutes: typed(allowed.minutes) },
        signal: mine.signal,
      }),
    )
  } catch (fault) {
    if (mine.signal.aborted) return
    problem.value = refusal(fault)
  } finally {
    if (asking === mine) busy.value = false
  }
}
function stop() {
  asking?.abort()
  busy.value = false
}
</script>

<template>
  <form class="card find no-print" novalidate aria-labelledby="find-title" @submit.prevent="find">
    <h2 id="find-title">Find the cheapest plan that keeps every band for eight weeks</h2>
    <p class="row">
      With at most
      <input v-model="allowed.minutes" inputmode="numeric" aria-label="Minutes a month" class="number" />
      minutes a month;
      <label><input v-model="allowed.two_part" type="checkbox" /> two-part</label>
      <label><input v-model="allowed.limewater" type="checkbox" /> limewater</label>
      <label
        ><input v-model="allowed.continuous" type="checkbox" /> a pump pair for small daily changes</label
      >
      <v-btn type="submit" size="small" variant="flat" :disabled="busy">Find</v-btn>
      <template v-if="busy">
        <span class="soft" role="status">Comparing every routine that the Shelf and your method allow…</span>
        <button class="plain-link" type="button" @click="stop">stop</button>
      </template>
    </p>
    <p v-if="problem" class="magenta" role="alert">
      {{ problem.problem.fields[0]?.message ?? problem.message }}
    </p>
    <div v-if="found" aria-live="polite">
      <p v-if="found.in_the_way.length" class="magenta">
        No plan holds everything. The limits: {{ found.in_the_way.join(' ') }} The nearest:
      </p>
      <ul>
        <li v-for="words in found.words" :key="words">{{ words }}</li>
        <li v-for="one in found.correction" :key="one.formula">
          At the start {{ one.words }}, then test before going on.
        </li>
      </ul>
      <v-btn size="small" @click="emit('take', found.variant)">Compare it</v-btn>
    </div>
  </form>
</template>

<style scoped>
.find {
  padding: 10px 14px;
  margin: 12px 0;
}
h2 {
  font-size: 1.05rem;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  margin: 6px 0;
}
.number {
  width: 4em;
  text-align: center;
  border: 0;
  border-bottom: 1.5px solid var(--ink);
  background: none;
  color: var(--ink);
}
ul {
  margin: 6px 0 10px 20px;
}
label {
  white-space: nowrap;
}
</style>
