<script setup lang="ts">
import { ref } from 'vue'
import DateField from '../../parts/DateField.vue'
import type { Upkeep } from '../../parts/useUpkeep'

/** When a task was last done, as remembered: the next one counts from then. */
const props = defineProps<{ task: string; upkeep: Upkeep }>()
const day = ref('')
async function save() {
  if (await props.upkeep.lastDone(props.task, day.value)) day.value = ''
}
</script>

<template>
  <form class="last" @submit.prevent="save">
    <DateField v-model="day" label="Last done on" density="compact" :error="upkeep.wrong('day')" />
    <v-btn type="submit" size="small" :disabled="!day" :loading="upkeep.busy.value">Record it</v-btn>
  </form>
</template>

<style scoped>
.last {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  max-width: 340px;
  margin: 6px 0 12px;
}
.last > .v-btn {
  margin-top: 4px;
}
</style>
