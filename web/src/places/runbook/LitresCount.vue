<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { ProblemError, Schemas } from '../../api/client'
import { unitRead } from '../../parts/measures'
import type { Say } from './useRun'

const props = defineProps<{
  litres: Schemas['Litres']
  refused?: ProblemError
  busy: boolean
}>()
const emit = defineEmits<{ say: [what: Say] }>()
const part = ref('')
const parting = ref(false)
const wrong = computed(() => props.refused?.at('litres') ?? props.refused?.at('value'))

const WORDS = { out: 'Bucket emptied', in: 'Bucket poured', fresh: 'Poured in' }
const counted = computed(() => {
  const noun = props.litres.straight ? 'time' : 'bucket'
  return `${props.litres.count} ${noun}${props.litres.count === 1 ? '' : 's'}`
})

function add(text: string) {
  emit('say', { kind: 'litres', text })
}
/* What was refused stays in its field. */
watch(
  () => props.litres.count,
  () => {
    part.value = ''
    parting.value = false
  },
)
</script>

<template>
  <p class="sum" aria-live="polite">
    <b>{{ litres.total_text }}</b> of {{ litres.target_words }}
  </p>
  <p class="soft">
    {{ counted }} so far
    <template v-if="litres.mark"> · mark {{ litres.mark }} below pumps-off level</template>
  </p>
  <v-btn
    v-if="litres.total < litres.target - 0.05"
    block
    size="x-large"
    variant="flat"
    class="big"
    :loading="busy"
    @click="add(`${litres.bucket} l`)"
  >
    {{ litres.straight ? 'Drained to the mark' : WORDS[litres.what] }}, {{ litres.bucket_words }}
  </v-btn>
  <div class="two">
    <v-btn size="large" @click="parting = !parting">another amount</v-btn>
    <v-btn size="large" :disabled="!litres.count" @click="emit('say', { kind: 'undo' })">undo</v-btn>
  </div>
  <form v-if="parting" class="part" @submit.prevent="add(part)">
    <v-text-field
      v-model="part"
      :label="litres.mark ? `Volume, or how far the level fell` : 'Volume'"
      :placeholder="`7.5 ${unitRead('L')}` + (litres.mark ? ` or 5.9 ${unitRead('cm')}` : '')"
      inputmode="decimal"
      autofocus
      :error-messages="wrong"
    />
    <v-btn type="submit" size="large">count</v-btn>
  </form>
</template>

<style scoped>
.sum {
  font-size: 1.5rem;
  color: var(--soft);
  line-height: 1;
}
.sum b {
  font-size: 4.4rem;
  color: var(--ink);
}
.big {
  margin-top: 12px;
  min-height: 76px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  margin: 12px 0;
}
.part {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 12px;
  align-items: start;
}
</style>
