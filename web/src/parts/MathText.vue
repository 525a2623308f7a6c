<script setup lang="ts">
import { computed } from 'vue'

/** Symbols such as S_R with their index set low. */
const props = defineProps<{ text: string }>()
const parts = computed(() => {
  const found: { text: string; low: string }[] = []
  let rest = props.text
  for (let at; (at = /_([A-Za-z]+)/.exec(rest)); rest = rest.slice(at.index + at[0].length)) {
    found.push({ text: rest.slice(0, at.index), low: at[1]! })
  }
  return [...found, { text: rest, low: '' }]
})
</script>

<template>
  <span
    ><template v-for="(part, index) in parts" :key="index"
      >{{ part.text }}<sub v-if="part.low">{{ part.low }}</sub></template
    ></span
  >
</template>

<style scoped>
sub {
  font-size: 0.75em;
}
</style>
