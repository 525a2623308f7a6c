<script setup lang="ts">
import { ref } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import FoundField from '../../parts/FoundField.vue'
import { useCommands } from '../../parts/useCommands'

/** A closer look that says nothing without what was found: asked where it is done. */
const props = defineProps<{ system: number; task: Schemas['ProgrammeTask'] }>()
const acts = useCommands()
const found = ref<Record<string, string>>({})
const keep = () =>
  acts.run(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/care/done', {
        params: { path: { system_id: props.system }, header },
        body: {
          task: props.task.task,
          due: props.task.due,
          step_id: null,
          when: '',
          minutes: '',
          zone: '',
          found: found.value,
          given: {},
        },
      }),
    ),
  )
</script>

<template>
  <form @submit.prevent="keep">
    <FoundField
      v-for="one in task.found"
      :key="one.key"
      v-model="found[one.key]"
      :asked="one"
      :error="acts.wrong(`found.${one.key}`)"
    />
    <v-btn size="small" type="submit" :disabled="acts.busy.value || !Object.values(found).some(Boolean)"
      >Record it</v-btn
    >
  </form>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: start;
  max-width: 460px;
  margin: 4px 0 8px;
}
form > :first-child {
  flex: 1 1 220px;
}
</style>
