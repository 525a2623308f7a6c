<script setup lang="ts">
import { fieldText, fieldValue, measuresKnown, unitRead } from './measures'
import { typed } from './numbers'

/** A number within a sentence, in the unit this keeper reads it in; the unit stands after it. */
const props = defineProps<{
  modelValue: string | number | null | undefined
  /** What the API keeps it in; without, the sentence says what it is in. */
  unit?: string
  label: string
  placeholder?: string
  wrong?: boolean
  wide?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()
const tell = (event: Event) =>
  emit('update:modelValue', typed(fieldValue((event.target as HTMLInputElement).value, props.unit)))
</script>

<template>
  <input
    :value="fieldText(modelValue, unit)"
    :readonly="!!unit && !measuresKnown"
    inputmode="decimal"
    autocomplete="off"
    :class="wide ? 'measure' : 'narrow'"
    :aria-label="label"
    :placeholder="placeholder"
    :aria-invalid="wrong"
    @input="tell"
  />
  {{ unitRead(unit) }}
</template>
