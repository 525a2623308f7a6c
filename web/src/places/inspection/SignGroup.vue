<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { SignChoice } from './useVisualCheck'

/** One group of signs as buttons: a touch says it is there, the next one more of it. */
defineProps<{
  name: string
  choices: SignChoice[]
  places: string[]
  seen: Record<string, Schemas['SignBody']>
}>()
const emit = defineEmits<{ touch: [choice: SignChoice] }>()
const steps: Record<string, string> = { trace: '•', patches: '••', much: '•••' }
</script>

<template>
  <fieldset>
    <legend>{{ name }}</legend>
    <div v-for="choice in choices" :key="choice.key" class="sign">
      <button
        type="button"
        class="chip"
        :class="{ on: seen[choice.key] }"
        :aria-pressed="!!seen[choice.key]"
        @click="emit('touch', choice)"
      >
        {{ choice.name }}
        <template v-if="seen[choice.key]?.amount">
          <span aria-hidden="true" class="steps">{{ steps[seen[choice.key]!.amount!] }}</span>
          <b>{{ seen[choice.key]!.amount }}</b>
        </template>
      </button>
      <select
        v-if="choice.graded && seen[choice.key]"
        v-model="seen[choice.key]!.where"
        class="quiet"
        :aria-label="`Where: ${choice.name}`"
      >
        <option :value="undefined">where?</option>
        <option v-for="place in places" :key="place" :value="place">{{ place }}</option>
      </select>
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
legend {
  font-weight: 700;
  padding-bottom: 4px;
}
.sign {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
.steps {
  letter-spacing: 1px;
  padding: 0 2px 0 6px;
}
</style>
