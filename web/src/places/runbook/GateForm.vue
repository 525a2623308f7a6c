<script setup lang="ts">
import { reactive, ref, watch } from 'vue'
import type { ProblemError, Schemas } from '../../api/client'
import { readDraft, writeDraft } from '../../parts/draft'
import ReasonForm from './ReasonForm.vue'
import type { Say } from './useRun'

/** What each part of a gate asks. */
const PARTS: Record<string, string> = {
  system: 'the system: ',
  plume: 'where animals meet it: ',
  batch: 'the batch: ',
  limit: '',
}

const props = defineProps<{
  /** The run and the step, under which what is typed waits on this device until it is said. */
  name: string
  lines: Schemas['Measure'][]
  matching: boolean
  refused?: ProblemError
  busy: boolean
}>()
const emit = defineEmits<{ say: [what: Say] }>()
/** What is typed, over what stood there when it was: a value that was said meanwhile goes first. */
type Waiting = Record<string, { text: string; over: string }>
const waiting = readDraft<Waiting>(props.name) ?? {}
const typed = reactive<Record<string, string>>(
  Object.fromEntries(
    props.lines.map(({ parameter, text }) => [
      parameter,
      waiting[parameter]?.over === text ? waiting[parameter].text : text,
    ]),
  ),
)
watch([typed, () => props.lines], () => {
  const open = props.lines.filter((line) => (typed[line.parameter] ?? '') !== line.text)
  const left = open.map((line) => [line.parameter, { text: typed[line.parameter], over: line.text }])
  writeDraft(props.name, left.length ? Object.fromEntries(left) : undefined)
})
const sent: Record<string, string> = {}
const overriding = ref(false)

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
      <template v-else-if="line.text">
        <b :class="{ magenta: !line.met }">{{ line.met ? 'good' : line.correction }}</b>
        <span v-for="part in line.parts" :key="part.part" class="part">
          <i>{{ PARTS[part.part] }}</i>{{ part.words }}<b v-if="!part.met" class="magenta"> · not met</b>
        </span>
      </template>
      <span v-else class="soft">{{ line.correction || line.parts[0]?.words }}</span>
    </span>
  </div>
  <button v-if="!overriding" class="plain-link" type="button" @click="overriding = true">
    {{ matching ? 'continue without a match' : 'continue anyway' }}
  </button>
  <ReasonForm
    v-else
    label="Why continue anyway"
    :refused="refused"
    :busy="busy"
    @keep="emit('say', { kind: 'override', text: $event })"
  />
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
.part {
  display: block;
  color: var(--soft);
  font-size: 0.82rem;
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
