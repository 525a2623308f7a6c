<script setup lang="ts">
import { ref, watch } from 'vue'
import DayButton from './DayButton.vue'
import { readDay, today, writtenDay } from './days'

/** A day, typed in plain words or picked; kept as an ISO date. What is no day is sent as it is, to be refused there. */
const props = defineProps<{
  modelValue: string | null | undefined
  label: string
  error?: string
  hint?: string
  /** A weekday alone is the next one, not the last. */
  ahead?: boolean
  /** Within a sentence or a row: no box. */
  inline?: boolean
  required?: boolean
}>()
/** `day` is told only of days, and of none where the field is emptied: for what is asked for at once. */
const emit = defineEmits<{ 'update:modelValue': [value: string]; day: [value: string] }>()
const text = ref(writtenDay(props.modelValue))
const typing = ref(false)
watch(
  () => props.modelValue,
  () => {
    if (!typing.value) text.value = writtenDay(props.modelValue)
  },
)
/** Words such as "yesterday" typed before the app said what day it is here are read again. */
watch(today, () => {
  if (!typing.value) text.value = writtenDay(props.modelValue)
  else if (text.value.trim()) say(text.value)
})
function say(typed: string) {
  text.value = typed
  const day = readDay(typed, props.ahead)
  emit('update:modelValue', day ?? typed.trim())
  if (day || !typed.trim()) emit('day', day ?? '')
}
function leave() {
  typing.value = false
  text.value = writtenDay(props.modelValue)
}
function pick(day: string) {
  emit('update:modelValue', day)
  emit('day', day)
  text.value = writtenDay(day)
}
</script>

<template>
  <span v-if="inline" class="inline">
    <input
      :value="text"
      :aria-label="label"
      :aria-invalid="!!error"
      :required="required"
      autocomplete="off"
      placeholder="any day"
      @focus="typing = true"
      @blur="leave"
      @keydown.enter="leave"
      @input="say(($event.target as HTMLInputElement).value)"
    />
    <DayButton :day="modelValue ?? ''" @pick="pick" />
  </span>
  <v-text-field
    v-else
    :model-value="text"
    :label="label"
    :error-messages="error"
    :hint="hint"
    :persistent-hint="!!hint"
    :required="required"
    :placeholder="ahead ? 'tomorrow' : 'yesterday'"
    autocomplete="off"
    @focus="typing = true"
    @blur="leave"
    @keydown.enter="leave"
    @update:model-value="say(String($event ?? ''))"
  >
    <template #append-inner>
      <DayButton :day="modelValue ?? ''" @pick="pick" />
    </template>
  </v-text-field>
</template>

<style scoped>
.inline {
  display: inline-flex;
  align-items: center;
}
.inline input {
  width: 7em;
}
</style>
