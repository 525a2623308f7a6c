<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { nextTick, ref, watch } from 'vue'
import { sumsQuery } from '../../api/queries'
import CautionNote from '../../parts/CautionNote.vue'
import Working from '../../parts/Working.vue'
import { useJot } from './useJot'

/** The jot line: a sum in plain words, answered while it is typed. Nothing is recorded by it. */
const props = defineProps<{ modelValue: boolean; systemId?: number; systemName?: string }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean] }>()
const { text, line, found, wrong, tape, keep, clear } = useJot(() => props.systemId)
const { data: examples } = useQuery(sumsQuery)
const field = ref<HTMLInputElement>()
const how = ref(false)
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
function take(sum: string) {
  text.value = sum.replace(/^=\s*/, '')
  field.value?.focus()
}
</script>

<template>
  <v-dialog
    :model-value="modelValue"
    max-width="640"
    content-class="jot-at-the-top"
    @update:model-value="emit('update:modelValue', $event)"
  >
    <section class="card sheet" aria-label="Sum">
      <form class="line" @submit.prevent="keep">
        <span class="sign" aria-hidden="true">=</span>
        <input
          ref="field"
          v-model="text"
          aria-label="A sum in plain words"
          :aria-invalid="!!wrong"
          aria-describedby="jot-answer"
          placeholder="salt for 60 l to 35"
          autocomplete="off"
          autocapitalize="off"
          spellcheck="false"
          maxlength="190"
        />
        <button class="plain-link" type="button" @click="emit('update:modelValue', false)">close</button>
      </form>

      <div id="jot-answer" aria-live="polite">
        <template v-if="found">
          <p class="answer">{{ found.text }}</p>
          <p class="soft understood">{{ found.understood }}</p>
          <ul v-if="found.notes.length" class="notes">
            <li v-for="note in found.notes" :key="note">{{ note }}</li>
          </ul>
        </template>
        <template v-else-if="wrong">
          <p class="echo">
            {{ wrong.before }}<span class="wrong">{{ wrong.word || ' ' }}</span
            >{{ wrong.after }}
          </p>
          <p>{{ wrong.message }}</p>
        </template>
      </div>

      <CautionNote
        v-for="caution in found?.cautions"
        :key="caution.key"
        :caution="caution"
        class="caution-note"
      />
      <template v-if="found?.working.length">
        <button class="plain-link" type="button" :aria-expanded="how" @click="how = !how">
          {{ how ? 'hide how' : 'how' }}
        </button>
        <Working v-if="how" :steps="found.working" />
      </template>

      <div v-if="!line" class="below">
        <template v-if="tape.length">
          <div class="part-head">
            <h2>Kept</h2>
            <button class="plain-link" type="button" @click="clear">clear</button>
          </div>
          <ul class="list">
            <li v-for="item in tape" :key="item.text">
              <button class="plain-link" type="button" @click="take(item.text)">{{ item.text }}</button>
              <b>{{ item.answer }}</b>
            </li>
          </ul>
        </template>
        <h2>For example</h2>
        <ul class="list">
          <li v-for="sum in examples" :key="sum">
            <button class="plain-link" type="button" @click="take(sum)">
              {{ sum.replace(/^=\s*/, '') }}
            </button>
          </li>
        </ul>
      </div>
      <p class="note">
        Enter keeps the answer here; nothing is recorded.
        <template v-if="systemName">Without a system named, {{ systemName }} is meant.</template>
      </p>
    </section>
  </v-dialog>
</template>

<style>
.jot-at-the-top {
  align-self: flex-start;
}
</style>

<style scoped>
.sheet {
  padding: 14px 18px;
  overflow-y: auto;
}
.line {
  display: flex;
  align-items: baseline;
  gap: 10px;
  border-bottom: 2px solid var(--ink);
}
.sign {
  font-size: 1.5rem;
  font-weight: 700;
}
input {
  flex: 1;
  min-width: 0;
  font-size: 1.25rem;
  padding: 8px 0;
  color: var(--ink);
  background: none;
  border: 0;
  outline: none;
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
.answer {
  font-size: 2.2rem;
  font-weight: 700;
  line-height: 1.2;
  margin-top: 14px;
}
.understood {
  margin-bottom: 6px;
}
.notes {
  padding-left: 18px;
  margin: 6px 0;
}
.echo {
  margin-top: 14px;
  white-space: pre-wrap;
}
.wrong {
  color: var(--magenta);
  font-weight: 600;
  border-bottom: 2px solid var(--magenta);
}
.caution-note {
  margin: 10px 0;
}
.below {
  margin-top: 12px;
}
.list {
  list-style: none;
  padding: 0;
  margin: 4px 0 12px;
}
.list li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.list button {
  text-align: left;
}
.note {
  margin-top: 10px;
}
</style>
