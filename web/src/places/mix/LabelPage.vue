<script setup lang="ts">
import { useRoute } from 'vue-router'
import Waiting from '../../parts/Waiting.vue'
import { useBatch } from './useBatch'

const id = Number(useRoute().params.batch)
const { data, error, refetch } = useBatch(id)
const print = () => window.print()
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <p class="no-print ways">
        <v-btn variant="flat" @click="print()">Print</v-btn>
        <router-link :to="{ name: 'batch', params: { batch: id } }">back to the batch</router-link>
      </p>
      <article class="label">
        <header>
          <h1>New seawater</h1>
          <span>{{ data.name }}</span>
        </header>
        <dl>
          <template v-for="line in data.label" :key="line.name + line.value">
            <dt>{{ line.name }}</dt>
            <dd>{{ line.value }}</dd>
          </template>
        </dl>
        <p v-if="data.label_note" class="warn">{{ data.label_note }}</p>
        <p class="foot">
          Keep covered, circulating, out of the sun. A white film means it has precipitated: do not use.
        </p>
      </article>
    </template>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  gap: 18px;
  align-items: baseline;
  margin-bottom: 16px;
}
.label {
  width: 100mm;
  max-width: 100%;
  border: 2px solid var(--ink);
  border-radius: 6px;
  background: #fff;
  color: #14303d;
  padding: 5mm 6mm;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 2px solid #14303d;
  padding-bottom: 2mm;
  margin-bottom: 2mm;
}
header h1 {
  font-size: 1.5rem;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1mm 5mm;
}
dd {
  font-weight: 700;
  text-align: right;
}
.warn {
  color: #9c1458;
  font-weight: 700;
  margin-top: 3mm;
}
.foot {
  font-size: 0.8rem;
  font-style: italic;
  margin-top: 3mm;
}
@media print {
  .page {
    padding: 0;
  }
}
</style>
