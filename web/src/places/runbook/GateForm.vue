<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { ProblemError, Schemas } from '../../api/client'
import type { Say } from './useRun'

const props = defineProps<{ lines: Schemas['Measure'][]; refused?: ProblemError; busy: boolean }>()
const emit = defineEmits<{ say: [what: Say] }>()
const typed = reactive<Record<string, string>>(
  Object.fromEntries(props.lines.map((line) => [line.parameter, line.text])),
)
const sent: Record<string, string> = {}
const overriding = ref(false)
const reason = ref('')

function measured(line: Schemas['Measure']) {
  const text = (typed[line.parameter] ?? '').trim()
  // Enter and leaving the field both come here: each value is said once.
  if (!text || text === (sent[line.parameter] ?? line.text)) return
  sent[line.parameter] = text
  emit('say', { kind: 'measured', item: line.parameter, text })
}
</script>

<template>
  <div v-for="line in lines" :key="line.parameter" class="line">
    <label :for="`gate-${line.parameter}`">{{ line.name }}</label>
    <span class="entry">
      <input
        :id="`gate-${line.parameter}`"
        v-model="typed[line.parameter]"
        inputmode="decimal"
        autocomplete="off"
        :aria-invalid="!!refused?.at(line.parameter)"
        :aria-describedby="`gate-words-${line.parameter}`"
        @change="measured(line)"
        @keydown.enter.prevent="measured(line)"
      />
      <span class="unit">{{ line.unit }}</span>
    </span>
    <span :id="`gate-words-${line.parameter}`" class="words" aria-live="polite">
      <b v-if="refused?.at(line.parameter)" class="magenta">{{ refused.at(line.parameter) }}</b>
      <template v-else-if="line.text || line.met">
        <b :class="{ magenta: !line.met }">{{ line.met ? 'good' : line.correction }}</b>
        <span class="soft"> {{ line.words }}</span>
      </template>
      <span v-else class="soft">{{ line.correction }}</span>
    </span>
  </div>
  <button v-if="!overriding" class="plain-link" type="button" @click="overriding = true">
    go on without a match
  </button>
  <form v-else class="override" @submit.prevent="emit('say', { kind: 'override', text: reason })">
    <v-text-field
      v-model="reason"
      label="Why it must go on all the same"
      :error-messages="refused?.at('text')"
      maxlength="300"
      autofocus
    />
    <v-btn type="submit" :loading="busy">Keep the reason</v-btn>
  </form>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 96px 130px 1fr;
  gap: 2px 12px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
label {
  font-weight: 700;
}
.entry {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
input {
  width: 92px;
  font-size: 1.3rem;
  font-weight: 600;
  text-align: right;
  padding: 8px 10px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
}
input[aria-invalid='true'] {
  border-color: var(--magenta);
}
.words {
  font-size: 0.9rem;
  line-height: 1.25;
}
.override {
  display: grid;
  gap: 10px;
  margin-top: 8px;
}
@media (max-width: 520px) {
  .line {
    grid-template-columns: 1fr 130px;
  }
  .words {
    grid-column: 1 / -1;
  }
}
</style>
