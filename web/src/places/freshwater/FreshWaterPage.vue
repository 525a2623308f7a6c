<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { freshWaterQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import UnitForm from './UnitForm.vue'

/** Fresh water of the household: the RO/DI unit, its stages, and when to start it. */
const { data, error, refetch } = useQuery(() => freshWaterQuery(14))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Fresh water</h1>
      <span class="soft">the RO/DI unit, the life of its stages, and when to start it</span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <UnitForm v-else :key="JSON.stringify(data.unit)" :stored="data" />
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
}
</style>
