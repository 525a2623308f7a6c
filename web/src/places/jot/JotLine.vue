<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { useEntry } from '../../parts/entry'
import LineDialog from '../../parts/LineDialog.vue'
import RecordPart from './RecordPart.vue'
import SumPart from './SumPart.vue'

/** Quick entry: one line in the keeper's plain words. It records, or with a leading "=" is the calculator. */
export type JotMode = 'record' | 'sum'
const props = defineProps<{ modelValue: boolean; mode: JotMode; systemId?: number; systemName?: string }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean]; 'update:mode': [mode: JotMode] }>()
/** What is typed outlives a reload, each mode its own line. */
const text = ref('')
const field = ref<HTMLInputElement>()
const part = ref<{ keep: () => unknown; complete?: () => boolean; wrong?: unknown }>()
const store = (mode: JotMode) => `jot-${mode}`
watch(
  () => props.mode,
  (mode) => (text.value = sessionStorage.getItem(store(mode)) ?? ''),
  { immediate: true },
)
watch(text, (now) => {
  if (props.mode === 'record' && now.startsWith('=')) {
    sessionStorage.setItem(store('sum'), now.replace(/^=\s*/, ''))
    sessionStorage.removeItem(store('record'))
    emit('update:mode', 'sum')
    return
  }
  sessionStorage.setItem(store(props.mode), now)
})
const entry = useEntry()
watch(
  () => entry.asked,
  (line) => {
    if (!line) return
    text.value = line
    entry.asked = ''
  },
  { immediate: true },
)
watch(
  () => props.modelValue,
  async (open) => {
    if (!open) return
    await nextTick()
    field.value?.focus()
    field.value?.select()
  },
  { immediate: true },
)
function take(line: string) {
  text.value = line
  field.value?.focus()
}
function pressed(event: KeyboardEvent) {
  const input = event.target as HTMLInputElement
  const atEnd = input.selectionStart === input.value.length
  if (event.key === 'ArrowRight' && atEnd && part.value?.complete?.()) event.preventDefault()
  if (event.key === 'Backspace' && props.mode === 'sum' && !input.value) emit('update:mode', 'record')
}
</script>

<template>
  <LineDialog
    :model-value="modelValue"
    :name="mode === 'sum' ? 'Calculator' : 'Quick entry'"
    @update:model-value="emit('update:modelValue', $event)"
    @submit="part?.keep()"
  >
    <template #line>
      <span class="sign" aria-hidden="true">{{ mode === 'sum' ? '=' : '›' }}</span>
      <input
        ref="field"
        v-model="text"
        :aria-label="mode === 'sum' ? 'A sum in plain words' : 'What you measured or did, in plain words'"
        :aria-invalid="!!part?.wrong"
        aria-describedby="jot-answer"
        :placeholder="mode === 'sum' ? 'salt for 60 l to 35' : 'alk 7.9'"
        autocomplete="off"
        autocapitalize="off"
        spellcheck="false"
        maxlength="190"
        @keydown="pressed"
      />
    </template>
    <div class="answer">
      <component
        :is="mode === 'sum' ? SumPart : RecordPart"
        ref="part"
        v-model="text"
        :system-id="systemId"
        :system-name="systemName"
        @take="take"
      />
    </div>
  </LineDialog>
</template>

<style scoped>
.sign {
  font-size: 1.5rem;
  font-weight: 700;
}
.answer :deep(.echo) {
  margin-top: 14px;
  white-space: pre-wrap;
}
.answer :deep(.wrong) {
  color: var(--magenta);
  font-weight: 600;
  border-bottom: 2px solid var(--magenta);
}
.answer :deep(.below) {
  margin-top: 12px;
}
.answer :deep(.list) {
  list-style: none;
  padding: 0;
  margin: 4px 0 12px;
}
.answer :deep(.list li) {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.answer :deep(.list button) {
  text-align: left;
}
</style>
