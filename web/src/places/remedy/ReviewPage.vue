<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { reviewQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import CaseCard from './CaseCard.vue'

/** A year of plans in all systems, by cause: what was tried, and what helped. */
const { data, error, refetch } = useQuery(reviewQuery)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Plans</h1>
        <span class="soft">all systems over the last year: what was tried, and what helped</span>
      </div>
      <p v-if="!data.length" class="note">
        No plan yet. When something is out of its band, the sheet says what can be done about it; the plans
        you choose are collected here by cause.
      </p>
      <section v-for="one in data" :key="one.name" :aria-label="one.name">
        <h2>
          {{ one.name }} <span class="soft">{{ one.words }}</span>
        </h2>
        <CaseCard
          v-for="plan in one.plans"
          :key="plan.id"
          :system="plan.system_id"
          :one="plan"
          :name="plan.system"
          link
        />
      </section>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
h2 {
  font-size: 1.1rem;
  margin: 14px 0 8px;
}
h2 .soft {
  font-weight: 400;
  font-size: 0.95rem;
  margin-left: 8px;
}
</style>
