<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'

/** Somebody who is told: by which way, in which turn, and when not. */
const model = defineModel<Schemas['AlarmContactBody']>({ required: true })
defineProps<{ wrong: (field: string) => string | undefined; saved: boolean; testing: string }>()
const emit = defineEmits<{ remove: []; test: [] }>()
const TURNS = [
  { title: 'at once', value: 1 },
  { title: 'if nobody looks', value: 2 },
  { title: 'if still nobody looks', value: 3 },
]
const time = (text: string) => (text === '' ? null : text)
</script>

<template>
  <fieldset>
    <legend>{{ model.name || 'New' }}</legend>
    <div class="fields">
      <FieldText v-model="model.name" label="Name" :error="wrong('name')" />
      <v-select v-model="model.turn" :items="TURNS" label="Told" />
      <FieldText v-model="model.webhook" label="Web address" :error="wrong('webhook')" />
      <FieldText v-model="model.email" label="E-mail" :error="wrong('email')" />
      <v-text-field
        :model-value="(model.quiet_from ?? '').slice(0, 5)"
        type="time"
        label="Quiet from"
        :error-messages="wrong('quiet_from')"
        @update:model-value="(text: string) => (model.quiet_from = time(text))"
      />
      <v-text-field
        :model-value="(model.quiet_to ?? '').slice(0, 5)"
        type="time"
        label="Quiet until"
        :error-messages="wrong('quiet_to')"
        @update:model-value="(text: string) => (model.quiet_to = time(text))"
      />
    </div>
    <div class="acts">
      <v-btn
        size="small"
        :disabled="!saved"
        :loading="testing === model.name"
        :aria-label="`Send a test to ${model.name}`"
        @click="emit('test')"
        >Send a test</v-btn
      >
      <v-btn size="small" variant="text" :aria-label="`Remove ${model.name}`" @click="emit('remove')"
        >Remove</v-btn
      >
      <span v-if="!saved" class="note">Save first, then test.</span>
    </div>
  </fieldset>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
