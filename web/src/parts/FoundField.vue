<script setup lang="ts">
import type { Schemas } from '../api/client'
import FieldText from './FieldText.vue'

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
  <FieldText
    v-else
    :model-value="modelValue ?? ''"
    :label="asked.name"
    :unit="asked.unit || undefined"
    :type="asked.input_type === 'number' ? undefined : 'text'"
    :error="error"
    density="compact"
    maxlength="300"
    @update:model-value="tell"
  />
</template>
