<script setup lang="ts">
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'

/** A number of the installation; empty: not known. */
defineProps<{ label: string; unit?: string; error?: string; hint?: string; zero?: boolean }>()
const model = defineModel<number | null>()
</script>

<template>
  <FieldText
    :model-value="model ?? ''"
    :label="label"
    :unit="unit"
    :error="error"
    :hint="hint"
    @update:model-value="
      (text) => (model = text.trim() === '' ? (zero ? 0 : null) : (typed(text) as unknown as number))
    "
  />
</template>
