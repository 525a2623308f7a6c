<script setup lang="ts">
import { computed, ref } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { typed } from '../../parts/numbers'
import { useCommands } from '../../parts/useCommands'

/** Media or carbon: what is in use, and the next small step with its reason and its test. */
const props = defineProps<{ system: number; row: Schemas['RampRow'] }>()
const full = ref(props.row.full_g ? String(props.row.full_g) : '')
const source = ref(props.row.source || 'ethanol')
const cloudy = ref(false)
const params = { path: { system_id: props.system } }
const commands = useCommands()
const body = () => ({
  kind: props.row.kind,
  full_g: full.value.trim() ? typed(full.value) : null,
  source: source.value as Schemas['CarbonSource'],
  cloudy: cloudy.value,
})
const { result, problem } = usePreview(body, (now, signal) =>
  answer(api.POST('/api/systems/{system_id}/ramp/preview', { params, body: now, signal })),
)
const now = computed(() => result.value ?? props.row)
const wrong = computed(() => ['full_g', 'now_g', 'kind'].map((name) => problem.value?.at(name)).find(Boolean))
const step = () =>
  commands.run(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/ramp', { params: { ...params, header }, body: body() }),
    ),
  )
</script>

<template>
  <article class="card pa-4">
    <h3>{{ row.name }}</h3>
    <p class="soft">{{ row.amount_now }}</p>
    <v-text-field
      v-if="row.kind === 'media'"
      v-model="full"
      label="Amount by the product sheet, g for this system"
      inputmode="decimal"
      class="mt-2"
      :error-messages="wrong"
    />
    <p v-else class="my-2">
      <select v-model="source" class="inline" aria-label="Source of carbon">
        <option value="ethanol">ethanol of 40 %</option>
        <option value="acetic_acid">acetic acid of 5 %</option>
      </select>
      <label class="ml-4"><input v-model="cloudy" type="checkbox" /> the water is cloudy</label>
    </p>
    <p v-if="row.kind === 'carbon' && wrong" class="magenta" role="alert">{{ wrong }}</p>
    <template v-if="now.missing.length">
      <p class="soft small">First:</p>
      <ul class="small ml-5">
        <li v-for="one in now.missing" :key="one">{{ one }}</li>
      </ul>
    </template>
    <template v-else-if="now.next">
      <p class="next">
        Next: <b>{{ now.next }}</b>
      </p>
      <p class="small">{{ now.why }}. {{ now.test }}.</p>
      <v-btn size="small" class="mt-2" :disabled="!!problem" :loading="commands.busy.value" @click="step()"
        >Start this plan</v-btn
      >
    </template>
  </article>
</template>

<style scoped>
h3 {
  font-size: 1.05rem;
}
.next {
  font-size: 1.1rem;
}
.small {
  font-size: 0.9rem;
}
</style>
