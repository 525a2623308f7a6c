<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { SetupModel } from './useSetup'

/** The questions on which keepers differ, each choice with what it asks and risks. A risk is said when it is taken. */
const props = defineProps<{
  set: SetupModel
  setup: Schemas['SetupAnswer']
  stored?: Record<string, string>
}>()
const form = props.set.form
const chosen = (one: Schemas['QuestionShown']) =>
  one.choices.find((choice) => choice.key === form.methods[one.key])
const isNew = (key: string) => form.methods[key] !== props.stored?.[key]
function take(question: string, event: Event) {
  props.set.takeSchool(question, (event.target as HTMLSelectElement).value)
}
</script>

<template>
  <ul class="methods">
    <li v-for="one in setup.methods" :key="one.key">
      <label :for="`method-${one.key}`">{{ one.name }}</label>
      <select
        :id="`method-${one.key}`"
        class="inline"
        :value="form.methods[one.key] ?? ''"
        @change="take(one.key, $event)"
      >
        <option value="">not said</option>
        <option v-for="choice in one.choices" :key="choice.key" :value="choice.key">{{ choice.name }}</option>
      </select>
      <span class="line">
        <span class="soft">{{ chosen(one)?.line }}</span>
        <span v-if="chosen(one)?.risk && isNew(one.key)" class="magenta" role="note">
          {{ chosen(one)!.risk }}
        </span>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.methods {
  list-style: none;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 220px 230px minmax(0, 1fr);
  gap: 2px 16px;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  align-items: baseline;
  font-size: 0.92rem;
}
label {
  font-weight: 600;
}
.line {
  display: grid;
  gap: 2px;
}
@media (max-width: 900px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
