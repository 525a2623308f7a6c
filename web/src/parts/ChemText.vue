<script setup lang="ts">
import { computed } from 'vue'

/** Plain words in which chemical formulas get their subscripts: Na2CO3, MgCl2·6H2O. */
const props = defineProps<{ text: string }>()
const FORMULA = /\b(?:[A-Z][a-z]?\d*|\([A-Z][A-Za-z0-9]*\)\d*){2,}(?:·\d+H2O)?/g
interface Piece {
  text: string
  low?: boolean
}
const pieces = computed<Piece[]>(() => {
  const found: Piece[] = []
  let from = 0
  for (const match of props.text.matchAll(FORMULA)) {
    if (!/\d/.test(match[0])) continue
    found.push({ text: props.text.slice(from, match.index) })
    for (const part of match[0].split(/(?<=[A-Za-z)])(\d+)/))
      found.push({ text: part, low: /^\d+$/.test(part) })
    from = match.index + match[0].length
  }
  return [...found, { text: props.text.slice(from) }]
})
</script>

<template>
  <template v-for="(piece, index) in pieces" :key="index"
    ><sub v-if="piece.low">{{ piece.text }}</sub
    ><template v-else>{{ piece.text }}</template></template
  >
</template>

<style scoped>
sub {
  font-size: 0.75em;
  line-height: 0;
}
</style>
