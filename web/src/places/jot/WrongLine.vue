<script setup lang="ts">
/** A line with the word that cannot be read, why, and lines that can be pressed instead. */
defineProps<{
  wrong: { before: string; word: string; after: string; message: string }
  examples: string[]
}>()
const emit = defineEmits<{ take: [line: string] }>()
</script>

<template>
  <p class="echo">
    {{ wrong.before }}<span class="wrong">{{ wrong.word || ' ' }}</span
    >{{ wrong.after }}
  </p>
  <p>{{ wrong.message }}</p>
  <div v-if="examples.length" class="going">
    <span class="soft">Try one of these:</span>
    <button v-for="line in examples" :key="line" class="chip" type="button" @click="emit('take', line)">
      {{ line }}
    </button>
  </div>
</template>

<style scoped>
.going {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  margin-top: 10px;
}
</style>
