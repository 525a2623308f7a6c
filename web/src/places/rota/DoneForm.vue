<script setup lang="ts">
import { reactive, ref } from 'vue'
import { type ProblemError, type Schemas, refusal } from '../../api/client'
import type { Care } from '../../parts/care'
import FoundField from '../../parts/FoundField.vue'
import WhenField from '../../parts/WhenField.vue'

/** Done with what was found: how long it took, which part, and the findings of this kind of task. */
const props = defineProps<{ task: Schemas['Task']; system: number; care: Care }>()
const emit = defineEmits<{ done: [] }>()
const told = reactive({
  when: '',
  minutes: '',
  zone: props.task.zone,
  found: {} as Record<string, string>,
  given: {} as Record<string, string>,
})
const refused = ref<ProblemError>()
const wrong = (field: string) => refused.value?.at(field)

async function keep() {
  const typed = (fields: Record<string, string>) =>
    Object.fromEntries(Object.entries(fields).filter(([, text]) => text?.trim()))
  try {
    await props.care.doneWith(props.system, props.task, {
      ...told,
      found: typed(told.found),
      given: typed(told.given),
    })
    emit('done')
  } catch (fault) {
    refused.value = refusal(fault)
  }
}
</script>

<template>
  <form class="form" @submit.prevent="keep">
    <v-text-field
      v-model="told.minutes"
      label="It took"
      suffix="min"
      density="compact"
      inputmode="decimal"
      autofocus
      :error-messages="wrong('minutes')"
    />
    <v-text-field v-if="task.zone" v-model="told.zone" label="Part" density="compact" maxlength="40" />
    <v-text-field
      v-for="one in task.gives"
      :key="one.name"
      v-model="told.given[one.name]"
      :label="one.name"
      :placeholder="one.amount"
      persistent-placeholder
      :suffix="one.unit"
      density="compact"
      inputmode="decimal"
      :error-messages="wrong(`given.${one.name}`)"
    />
    <FoundField
      v-for="one in task.found"
      :key="one.key"
      v-model="told.found[one.key]"
      :asked="one"
      :error="wrong(`found.${one.key}`)"
    />
    <WhenField v-model="told.when" class="when" :error="wrong('when')" />
    <v-btn type="submit" variant="flat" size="small">Save</v-btn>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 12px;
  align-items: start;
  padding-top: 6px;
}
.when {
  grid-column: 1 / -1;
}
</style>
