<script setup lang="ts">
import { ref } from 'vue'

/** The way into the example household; it is made when it is first asked for. */
const busy = ref(false)
const refused = ref(false)
async function enter() {
  busy.value = true
  refused.value = false
  try {
    const made = await fetch('/example/api/health')
    if (!made.ok) throw new Error(made.statusText)
    location.assign('/example/')
  } catch {
    busy.value = false
    refused.value = true
  }
}
</script>

<template>
  <v-btn :disabled="busy" @click="enter">Look round an example household</v-btn>
  <span v-if="busy" role="status" class="soft"
    >Setting it up: fourteen months of four tanks, a few seconds.</span
  >
  <span v-if="refused" role="alert" class="magenta">It could not be set up just now. Try again.</span>
</template>
