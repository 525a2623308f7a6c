<script setup lang="ts">
import { ref } from 'vue'
import type { ProblemError } from '../../api/client'

const open = defineModel<boolean>({ required: true })
defineProps<{ off: string[]; refused?: ProblemError }>()
const emit = defineEmits<{ abandon: [reason: string] }>()
const reason = ref('')
</script>

<template>
  <v-dialog v-model="open">
    <v-card title="Abandon this work?">
      <form @submit.prevent="emit('abandon', reason)">
        <v-card-text>
          <p v-if="off.length" class="magenta mb-3">
            Still off: {{ off.join(', ') }}. See to each before you leave the tank.
          </p>
          <v-text-field
            v-model="reason"
            label="Why"
            autofocus
            :error-messages="refused?.at('reason')"
            maxlength="300"
          />
          <p class="note mt-2">
            What was drained, filled and measured so far goes into the record; what was planned stays on the
            rota.
          </p>
        </v-card-text>
        <v-card-actions>
          <v-btn type="button" @click="open = false">Keep working</v-btn>
          <v-btn type="submit" variant="flat">Abandon</v-btn>
        </v-card-actions>
      </form>
    </v-card>
  </v-dialog>
</template>
