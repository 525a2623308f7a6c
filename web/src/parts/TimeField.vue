<script setup lang="ts">
import { ref, watch } from 'vue'
import { readTime, writtenTime } from './days'

/** A time of day as this keeper writes it; kept as HH:MM. What is no time is sent as it is, to be refused there. */
const props = defineProps<{ modelValue: string; label: string; error?: string; inline?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const text = ref(writtenTime(props.modelValue))
const typing = ref(false)
watch(
  () => props.modelValue,
  (now) => {
    if (!typing.value) text.value = writtenTime(now)
  },
)
function say(typed: string) {
  text.value = typed
  emit('update:modelValue', readTime(typed) ?? typed.trim())
}
function leave() {
  typing.value = false
  text.value = writtenTime(props.modelValue)
}
</script>

<template>
  <input
    v-if="inline"
    class="inline"
    :value="text"
    :aria-label="label"
    :aria-invalid="!!error"
    required
    autocomplete="off"
    @focus="typing = true"
    @blur="leave"
    @input="say(($event.target as HTMLInputElement).value)"
  />
  <v-text-field
    v-else
    :model-value="text"
    :label="label"
    :error-messages="error"
    :placeholder="writtenTime('21:00')"
    autocomplete="off"
    @focus="typing = true"
    @blur="leave"
    @update:model-value="say(String($event ?? ''))"
  />
</template>
