<script setup lang="ts">
import { reactive, watch } from 'vue'
import type { ProblemError } from '../../api/client'
import FoundField from '../../parts/FoundField.vue'
import type { Say, Step } from './useRun'

/** What was found at a step: told when its field is left, so that it is kept whatever comes next. */
const props = defineProps<{ step: Step; refused?: ProblemError }>()
const emit = defineEmits<{ say: [what: Say] }>()
const told = reactive<Record<string, string>>({ ...props.step.found })
// Another one may have told it meanwhile.
watch(
  () => props.step.found,
  (now, before) => {
    for (const [key, value] of Object.entries(now)) if (before?.[key] !== value) told[key] = value
  },
)
function keep(key: string) {
  const text = told[key] ?? ''
  if (text !== (props.step.found[key] ?? '')) emit('say', { kind: 'found', item: key, text })
}
</script>

<template>
  <div class="finds">
    <div v-for="asked in step.finds" :key="asked.key" @focusout="keep(asked.key)">
      <FoundField
        v-model="told[asked.key]"
        :asked="asked"
        :error="refused?.at(`found.${asked.key}`)"
        @update:model-value="asked.input_type === 'choice' && keep(asked.key)"
      />
    </div>
  </div>
</template>

<style scoped>
.finds {
  display: grid;
  gap: 10px;
  margin: 12px 0;
}
</style>
