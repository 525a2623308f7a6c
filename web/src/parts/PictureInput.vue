<script setup lang="ts">
import { ref } from 'vue'

/** A button that takes pictures: from the camera of a phone, or files. */
defineProps<{ label: string; name?: string; busy?: boolean; many?: boolean }>()
const emit = defineEmits<{ files: [files: FileList] }>()
const field = ref<HTMLInputElement>()
function taken() {
  if (field.value?.files?.length) emit('files', field.value.files)
  if (field.value) field.value.value = ''
}
</script>

<template>
  <label class="take">
    <span class="plain-link">{{ busy ? 'saving …' : label }}</span>
    <input
      ref="field"
      class="visually-hidden"
      type="file"
      accept="image/jpeg,image/png,image/webp"
      :multiple="many"
      :disabled="busy"
      :aria-label="name ?? label"
      @change="taken"
    />
  </label>
</template>

<style scoped>
.take {
  position: relative;
  cursor: pointer;
}
.take:focus-within .plain-link {
  outline: 2px solid var(--magenta);
  outline-offset: 2px;
}
</style>
