<script setup lang="ts">
import type { Schemas } from '../../api/client'
import AnswerDrawing from './AnswerDrawing.vue'

/** A question with its answers to tap; while the next one is asked, none of them takes a second tap. */
defineProps<{ question: Schemas['KeyQuestion']; closer?: boolean; asking?: boolean }>()
defineEmits<{ answer: [key: string]; skip: [] }>()
</script>

<template>
  <section :aria-label="question.text">
    <h2>{{ question.text }}</h2>
    <p v-if="question.how" class="soft">{{ question.how }}</p>
    <div class="answers" :class="{ drawn: question.key === 'look' }">
      <button
        v-for="one in question.answers"
        :key="one.key"
        type="button"
        class="answer"
        :disabled="asking"
        @click="$emit('answer', one.key)"
      >
        <AnswerDrawing v-if="question.key === 'look'" :name="one.key" />
        <span>{{ one.name }}</span>
      </button>
    </div>
    <button v-if="!closer" type="button" class="plain-link" :disabled="asking" @click="$emit('skip')">
      I don’t know: next question
    </button>
  </section>
</template>

<style scoped>
section > .plain-link {
  margin-bottom: 12px;
}
h2 {
  font-size: 1.25rem;
  margin-bottom: 6px;
}
.answers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 210px), 1fr));
  gap: 8px;
  margin: 8px 0;
}
.answers.drawn {
  grid-template-columns: repeat(auto-fill, minmax(min(46%, 138px), 1fr));
}
.answer {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 4px;
  min-height: 52px;
  padding: 8px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--card);
  color: var(--ink);
  font: inherit;
  text-align: center;
  cursor: pointer;
}
.answer:hover,
.answer:focus-visible {
  border-color: var(--ink);
}
</style>
