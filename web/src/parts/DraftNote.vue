<script setup lang="ts">
import type { FormDraft } from './draft'

/** Says that a form holds what was typed before, and asks before it is left. */
defineProps<{ draft: FormDraft }>()
</script>

<template>
  <p v-if="draft.restored.value" class="note" role="status">
    This is what you typed before. It is not saved yet.
    <button class="plain-link" type="button" @click="draft.restart()">start over</button>
  </p>
  <v-dialog
    :model-value="!!draft.asking.value"
    persistent
    max-width="460"
    @keydown.esc="draft.asking.value?.('stay')"
  >
    <v-card title="Leave without saving?">
      <v-card-text>
        It is not saved yet. It can stay on this device, and the form will open with it next time.
      </v-card-text>
      <v-card-actions>
        <v-btn @click="draft.asking.value?.('drop')">Discard</v-btn>
        <v-btn @click="draft.asking.value?.('keep')">Keep for later</v-btn>
        <v-btn variant="flat" autofocus @click="draft.asking.value?.('stay')">Stay here</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
