<script setup lang="ts">
import type { FormDraft } from './draft'

/** Says that a form holds what was typed before, and asks before it is left. */
defineProps<{ draft: FormDraft }>()
</script>

<template>
  <p v-if="draft.restored.value" class="note" role="status">
    This is what you typed before; it is not kept yet.
    <button class="plain-link" type="button" @click="draft.restart()">start afresh</button>
  </p>
  <v-dialog
    :model-value="!!draft.asking.value"
    persistent
    max-width="460"
    @keydown.esc="draft.asking.value?.('stay')"
  >
    <v-card title="Leave what you typed?">
      <v-card-text>
        It is not kept yet. On this device it can wait for you, and the form opens with it next time.
      </v-card-text>
      <v-card-actions>
        <v-btn @click="draft.asking.value?.('drop')">Throw it away</v-btn>
        <v-btn @click="draft.asking.value?.('keep')">Leave it for later</v-btn>
        <v-btn variant="flat" autofocus @click="draft.asking.value?.('stay')">Stay here</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>
