<script setup lang="ts">
import type { Picture } from '../../parts/usePictures'
import { BASE } from '../../parts/example'

/** Two pictures side by side, the earlier on the left. */
defineProps<{ pair: Picture[] }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <section class="card" aria-label="Side by side">
    <div class="two">
      <figure v-for="one in pair" :key="one.id">
        <a :href="BASE + one.url" target="_blank" rel="noopener"
          ><img :src="BASE + one.url" :alt="one.words"
        /></a>
        <figcaption>
          <b>{{ one.day }}</b> {{ one.subject }} <span class="soft">{{ one.note }}</span>
        </figcaption>
      </figure>
    </div>
    <button class="plain-link" type="button" @click="emit('close')">close comparison</button>
  </section>
</template>

<style scoped>
section {
  padding: 12px;
  margin-bottom: 14px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
img {
  width: 100%;
  max-height: 62vh;
  object-fit: contain;
  background: var(--paper);
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
