<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'

/** Where readings come from by themselves: an address that is asked, or one that a controller sends to. */
const model = defineModel<string>({ required: true })
defineProps<{ stored: Schemas['SystemAlarms']; error?: string }>()
const emit = defineEmits<{ address: [] }>()
const copy = (text: string) => void navigator.clipboard?.writeText(text)
</script>

<template>
  <section class="card" aria-labelledby="controller-title">
    <h2 id="controller-title">Where readings come from</h2>
    <p class="note">
      A controller that answers JSON is asked every minute; or it sends by itself. Without one, the tests you
      enter are watched.
    </p>
    <FieldText v-model="model" label="Address that is asked (empty: none)" :error="error" />
    <p v-if="stored.fault" class="magenta" role="note">The last time: {{ stored.fault }}.</p>
    <p v-if="stored.state">{{ stored.state }}</p>
    <p v-if="stored.push" class="address">
      It sends to <code>{{ stored.push }}</code>
      <button type="button" class="plain-link" @click="copy(stored.push)">Copy</button>
    </p>
    <button type="button" class="plain-link" @click="emit('address')">
      {{ stored.push ? 'Make a new address' : 'Make an address that a controller sends to' }}
    </button>
    <pre v-if="stored.push" aria-label="What it sends">{{
      JSON.stringify({
        readings: [{ sensor: 'T1', signal: 'temperature', value: 25.1, unit: '°C' }],
        contacts: [{ sensor: 'floor', signal: 'leak', on: false }],
      })
    }}</pre>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
  display: grid;
  gap: 8px;
  justify-items: start;
}
.card > * {
  max-width: 100%;
  min-width: 0;
}
h2 {
  font-size: 1.1rem;
}
.card :deep(.v-input) {
  width: min(460px, 100%);
}
.address,
pre {
  overflow-wrap: anywhere;
  white-space: pre-wrap;
}
pre {
  font-size: 0.85rem;
  color: var(--soft);
}
</style>
