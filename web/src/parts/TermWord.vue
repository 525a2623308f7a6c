<script setup lang="ts">
import { useId } from 'vue'
import { WORDS, type Word } from '../places/help/words'

/** A word with its meaning under the pointer, the finger or the focus. */
const props = defineProps<{ word: Word }>()
const meaning = WORDS[props.word][1]
const id = useId()
</script>

<template>
  <span class="term">
    <button type="button" :aria-describedby="id"><slot /></button>
    <span :id="id" class="meaning">{{ meaning }}</span>
  </span>
</template>

<style scoped>
.term {
  position: relative;
}
button {
  min-height: 24px;
  padding: 0;
  border: 0;
  border-bottom: 1px dotted currentcolor;
  background: none;
  color: inherit;
  font: inherit;
  cursor: help;
}
.meaning {
  display: none;
  position: absolute;
  z-index: 6;
  top: 100%;
  left: 0;
  width: max-content;
  max-width: 280px;
  padding: 8px 12px;
  border-radius: 4px;
  background: var(--ink);
  color: var(--paper);
  font-size: 0.85rem;
  font-style: normal;
  font-weight: 400;
  text-align: left;
  white-space: normal;
}
button:hover + .meaning,
button:focus + .meaning {
  display: block;
}
@media (max-width: 900px) {
  .meaning {
    position: fixed;
    inset: auto 12px 72px;
    width: auto;
    max-width: none;
  }
}
@media print {
  button {
    border: 0;
  }
}
</style>
