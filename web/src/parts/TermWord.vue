<script setup lang="ts">
import { WORDS, type Word } from '../places/help/words'

/** A word with its meaning under the pointer, the finger or the focus. */
const props = defineProps<{ word: Word }>()
const meaning = WORDS[props.word][1]
</script>

<template>
  <v-tooltip :text="meaning" location="bottom" max-width="320" open-on-click open-on-focus>
    <template #activator="{ props: on }">
      <button v-bind="on" type="button" class="term" :aria-label="`${WORDS[word][0]}: ${meaning}`">
        <slot />
      </button>
    </template>
  </v-tooltip>
</template>

<style scoped>
.term {
  min-height: 24px;
  padding: 0;
  border: 0;
  border-bottom: 1px dotted currentcolor;
  background: none;
  color: inherit;
  font: inherit;
  cursor: help;
}
</style>
