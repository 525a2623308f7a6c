<script setup lang="ts">
import { ref } from 'vue'
import { type ProblemError, type Schemas, refusal } from '../../api/client'
import type { Care } from '../../parts/care'
import DateField from '../../parts/DateField.vue'

/** Part of the work on its day, the rest on another. */
const props = defineProps<{ task: Schemas['Task']; system: number; rota: Schemas['Rota']; care: Care }>()
const emit = defineEmits<{ done: [] }>()
const minutes = ref(String(Math.round(props.task.minutes / 2)))
const day = ref('')
const wrong = ref<ProblemError>()

async function split() {
  wrong.value = undefined
  try {
    await props.care.split(props.system, props.task, minutes.value, day.value)
    emit('done')
  } catch (fault) {
    wrong.value = refusal(fault)
  }
}
</script>

<template>
  <form @submit.prevent="split">
    <p>
      First
      <input
        v-model="minutes"
        class="inline short"
        inputmode="numeric"
        aria-label="Minutes of the first part"
        required
      />
      of {{ task.minutes }} min, the rest on
      <DateField v-model="day" inline ahead label="Day of the rest" required />
    </p>
    <p v-if="wrong" role="alert" class="magenta">
      {{ wrong.at('minutes') ?? wrong.at('day') ?? wrong.message }}
    </p>
    <button class="plain-link" type="submit">Split in two</button>
  </form>
</template>

<style scoped>
form {
  font-size: 0.92rem;
}
.short {
  width: 3.5em;
}
</style>
