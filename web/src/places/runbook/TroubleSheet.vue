<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CautionNote from '../../parts/CautionNote.vue'

/** Something goes wrong: what to stop first, what to do meanwhile, how long they have, how to go on. */
defineProps<{ trouble: Schemas['TroubleShown'] }>()
const emit = defineEmits<{ settled: [] }>()
</script>

<template>
  <section class="sheet" role="alert">
    <h2 class="magenta">{{ trouble.title }}</h2>
    <p class="first">{{ trouble.first }}</p>
    <dl>
      <dt>Meanwhile</dt>
      <dd>{{ trouble.meanwhile }}</dd>
      <dt>How long they have</dt>
      <dd>{{ trouble.time_left }}</dd>
      <dt>Then</dt>
      <dd>{{ trouble.then }}</dd>
    </dl>
    <CautionNote v-if="trouble.caution" :caution="trouble.caution" class="my-3" />
    <v-btn block size="x-large" variant="flat" @click="emit('settled')"
      >Under control: back to the step</v-btn
    >
  </section>
</template>

<style scoped>
.sheet {
  border: 2px solid var(--magenta);
  border-radius: 4px;
  background: var(--card);
  padding: 14px 16px;
  margin-bottom: 16px;
}
h2 {
  font-size: 1.2rem;
}
.first {
  font-size: 1.2rem;
  font-weight: 600;
  line-height: 1.3;
  margin: 6px 0 10px;
}
dt {
  color: var(--soft);
  font-style: italic;
  font-size: 0.85rem;
}
dd {
  margin: 0 0 8px;
}
</style>
