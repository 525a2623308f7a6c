<script setup lang="ts">
import { ref, watch } from 'vue'
import DateField from './DateField.vue'
import TimeField from './TimeField.vue'

/** When something was done: now, unless the day and the time are said. What is no moment is sent as it is, to be
 * refused at its place. */
const model = defineModel<string | undefined>({ default: '' })
defineProps<{ error?: string; label?: string }>()
const open = ref(!!model.value)
const day = ref((model.value ?? '').slice(0, 10))
const time = ref((model.value ?? '').slice(11))
watch([day, time], () => (model.value = `${day.value} ${time.value}`.trim()))
watch(model, (now) => {
  if (!now) [open.value, day.value, time.value] = [false, '', '']
})
</script>

<template>
  <div class="when">
    <button v-if="!open" class="plain-link" type="button" @click="open = true">
      {{ label ?? 'Done earlier?' }}
    </button>
    <template v-else>
      <DateField v-model="day" label="On" density="compact" :error="error" />
      <TimeField v-model="time" label="At" density="compact" />
      <button class="plain-link" type="button" aria-label="Just now" @click="model = ''">now</button>
    </template>
  </div>
</template>

<style scoped>
.when {
  display: flex;
  gap: 8px;
  align-items: flex-start;
}
.when:has(.v-input) {
  flex: 0 1 350px;
}
.when > :deep(.v-input) {
  flex: 1 1 170px;
  max-width: 200px;
}
.when > :deep(.v-input + .v-input) {
  flex: 1 1 90px;
  max-width: 120px;
}
.when > button {
  align-self: center;
}
</style>
