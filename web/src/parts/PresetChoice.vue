<script setup lang="ts">
import type { Schemas } from '../api/client'

/** Metric, US or UK: units, days and hours that go together. */
type Preset = Schemas['PresetShown']
defineProps<{ presets: Preset[]; taken: (preset: Preset) => boolean; busy?: boolean }>()
const emit = defineEmits<{ take: [preset: Preset] }>()
</script>

<template>
  <div role="group" aria-label="Usual units" class="presets">
    <v-btn
      v-for="preset in presets"
      :key="preset.key"
      size="small"
      :variant="taken(preset) ? 'flat' : 'outlined'"
      :aria-pressed="taken(preset)"
      :disabled="busy"
      @click="emit('take', preset)"
      >{{ preset.name }}</v-btn
    >
  </div>
</template>

<style scoped>
.presets {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
