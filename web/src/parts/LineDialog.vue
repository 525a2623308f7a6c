<script setup lang="ts">
/** One line at the top of the screen, with what it means below it: quick entry, the calculator, the search. */
defineProps<{ modelValue: boolean; name: string }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean]; submit: [] }>()
</script>

<template>
  <v-dialog
    :model-value="modelValue"
    max-width="640"
    content-class="at-the-top"
    @update:model-value="emit('update:modelValue', $event)"
  >
    <section class="card sheet" :aria-label="name">
      <form class="line" @submit.prevent="emit('submit')">
        <slot name="line" />
        <button class="plain-link" type="button" @click="emit('update:modelValue', false)">Close</button>
      </form>
      <slot />
    </section>
  </v-dialog>
</template>

<style>
.at-the-top {
  align-self: flex-start;
}
</style>

<style scoped>
.sheet {
  padding: 14px 18px;
  overflow-y: auto;
}
.line {
  display: flex;
  align-items: baseline;
  gap: 10px;
  border-bottom: 2px solid var(--ink);
}
.line :slotted(input) {
  flex: 1;
  min-width: 0;
  font-size: 1.25rem;
  padding: 8px 0;
  color: var(--ink);
  background: none;
  border: 0;
  outline: none;
}
.line :slotted(input)::placeholder {
  color: var(--soft);
  opacity: 1;
}
</style>
