<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { steppedQuery, stockQuery } from '../../api/queries'
import CautionNote from '../../parts/CautionNote.vue'
import Waiting from '../../parts/Waiting.vue'
import DosingHead from './DosingHead.vue'
import RampCard from './RampCard.vue'
import StockRecipe from './StockRecipe.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(stockQuery)
const { data: stepped, error: unread, refetch: again } = useQuery(() => steppedQuery(id))
</script>

<template>
  <div class="page">
    <DosingHead class="no-print" side="solutions to make; media and carbon in small steps" />
    <Waiting v-if="!data || !stepped" :error="error ?? unread" :retry="() => [refetch(), again()]" />
    <template v-else>
      <StockRecipe :offer="data" />
      <section class="no-print mt-6" aria-labelledby="stepped-title">
        <h2 id="stepped-title" class="mb-2">Phosphate media and carbon dosing</h2>
        <div class="pair">
          <RampCard v-for="row in stepped.rows" :key="row.kind" :system="id" :row="row" />
        </div>
        <div class="pair mt-3">
          <CautionNote v-for="one in stepped.cautions" :key="one.key" :caution="one" />
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 14px;
  align-items: start;
}
</style>
