<script setup lang="ts">
import type { Schemas } from '../../api/client'
import WaterBox from './WaterBox.vue'

defineProps<{ batches: Schemas['BatchCard'][] }>()
</script>

<template>
  <ul v-if="batches.length" aria-label="Batches">
    <li v-for="batch in batches" :key="batch.id">
      <router-link :to="{ name: 'batch', params: { batch: batch.id } }" class="card one">
        <WaterBox :filled="batch.filled" />
        <span>
          <b>{{ batch.name }}</b> <i class="soft">{{ batch.phase }}</i>
          <span class="line">{{ batch.words }}</span>
          <span v-if="batch.age" class="line" :class="batch.stale ? 'magenta' : 'soft'">{{ batch.age }}</span>
        </span>
      </router-link>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 18px;
}
.one {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 10px 16px;
  min-width: 280px;
  text-decoration: none;
}
.one:hover b {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.line {
  display: block;
  font-size: 0.9rem;
}
</style>
