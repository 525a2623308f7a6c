<script setup lang="ts">
import { ref, watch } from 'vue'
import { ProblemError } from '../api/client'
import type { Care } from './care'

const props = defineProps<{ care: Care }>()
const reason = ref('')
const problem = ref('')
watch(
  () => props.care.skipping.value,
  () => {
    reason.value = ''
    problem.value = ''
  },
)
async function skip() {
  try {
    await props.care.skip(reason.value)
  } catch (fault) {
    problem.value = fault instanceof ProblemError ? fault.message : String(fault)
  }
}
</script>

<template>
  <v-dialog :model-value="!!care.skipping.value" @update:model-value="care.leaveSkip()">
    <v-card :title="`Skip: ${care.skipping.value?.item.title ?? care.skipping.value?.item.name ?? ''}`">
      <form @submit.prevent="skip">
        <v-card-text>
          <v-text-field v-model="reason" label="Why" autofocus :error-messages="problem" maxlength="300" />
          <p class="note mt-2">The reason goes into the record. The next one counts from today.</p>
        </v-card-text>
        <v-card-actions>
          <v-btn type="button" @click="care.leaveSkip()">Cancel</v-btn>
          <v-btn type="submit" variant="flat">Skip</v-btn>
        </v-card-actions>
      </form>
    </v-card>
  </v-dialog>
</template>
