<script setup lang="ts">
import { computed } from 'vue'
import { VDatePicker } from 'vuetify/components/VDatePicker'
import { today } from './days'

/** A small calendar in the keeper's week, whatever the browser's language. */
const props = defineProps<{ day: string; first: number }>()
const emit = defineEmits<{ pick: [day: string] }>()
const shown = computed(() => (/^\d{4}-\d\d-\d\d$/.test(props.day) ? props.day : today.value))
const two = (number: number) => String(number).padStart(2, '0')
/** The picker's days are local to the device: only their date counts. */
function picked(value: unknown) {
  const day = value as Date
  emit('pick', `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`)
}
</script>

<template>
  <VDatePicker
    :model-value="new Date(`${shown}T12:00:00`)"
    :first-day-of-week="(first + 1) % 7"
    hide-header
    show-adjacent-months
    color="primary"
    @update:model-value="picked"
  />
</template>
