<script setup lang="ts">
import { ref } from 'vue'

/** An address that is given to others: copied, made anew, taken away. */
defineProps<{ address: string; label: string }>()
const emit = defineEmits<{ anew: []; drop: [] }>()
const copied = ref(false)
const canCopy = 'clipboard' in navigator
async function copy(address: string) {
  await navigator.clipboard.writeText(address)
  copied.value = true
}
const select = (event: Event) => (event.target as HTMLInputElement).select()
</script>

<template>
  <div class="secret">
    <input readonly :value="address" :aria-label="label" @focus="select" />
    <v-btn v-if="canCopy" variant="flat" size="small" @click="copy(address)">{{
      copied ? 'Copied' : 'Copy'
    }}</v-btn>
    <button class="plain-link" type="button" @click="emit('anew')">new link</button>
    <button class="plain-link" type="button" @click="emit('drop')">remove the link</button>
    <slot />
  </div>
</template>

<style scoped>
.secret {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: baseline;
}
input {
  flex: 1 1 460px;
  min-width: 0;
  border: 1px solid var(--line);
  background: var(--card);
  color: var(--ink);
  padding: 8px 10px;
  font: inherit;
}
</style>
