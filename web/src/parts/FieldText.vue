<script setup lang="ts">
import { fieldText, fieldValue, measuresKnown, unitRead } from './measures'

/** A labelled field with its unit, its help and its error. */
defineProps<{
  modelValue: string | number
  label: string
  unit?: string
  error?: string
  hint?: string
  type?: string
  autofocus?: boolean
  placeholder?: string
}>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
</script>

<template>
  <v-text-field
    :model-value="fieldText(modelValue, unit)"
    :label="label"
    :suffix="unitRead(unit)"
    :error-messages="error"
    :hint="hint"
    :persistent-hint="!!hint"
    :readonly="!!unit && !measuresKnown"
    :type="type ?? 'text'"
    :inputmode="type ? undefined : 'decimal'"
    :autofocus="autofocus"
    :placeholder="placeholder"
    autocomplete="off"
    @update:model-value="emit('update:modelValue', fieldValue(String($event ?? ''), unit))"
  />
</template>
