<script setup lang="ts">
import { ref } from 'vue'
import type { ProblemError } from '../../api/client'

/** A reason that is kept in the record. */
defineProps<{ label: string; refused?: ProblemError; busy: boolean }>()
const emit = defineEmits<{ keep: [reason: string] }>()
const reason = ref('')
</script>

<template>
  <form @submit.prevent="emit('keep', reason)">
    <v-text-field
      v-model="reason"
      :label="label"
      :error-messages="refused?.at('text')"
      maxlength="300"
      autofocus
    />
    <v-btn type="submit" :loading="busy">Save the reason</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  margin-top: 8px;
}
</style>
