<script setup lang="ts">
import type { Schemas } from '../api/client'

/** A finding as it is asked for: a number with its unit, one of several, or words. */
defineProps<{ asked: Schemas['FoundAsked']; modelValue?: string; error?: string }>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const tell = (value: unknown) => emit('update:modelValue', String(value ?? ''))
</script>

<template>
  <v-select
    v-if="asked.input_type === 'choice'"
    :model-value="modelValue"
    :items="asked.choices"
    :label="asked.name"
    :error-messages="error"
    density="compact"
    clearable
    @update:model-value="tell"
  />
  <v-text-field
    v-else
    :model-value="modelValue"
    :label="asked.name"
    :suffix="asked.unit || undefined"
    :inputmode="asked.input_type === 'number' ? 'decimal' : undefined"
    :error-messages="error"
    density="compact"
    autocomplete="off"
    maxlength="300"
    @update:model-value="tell"
  />
</template>
