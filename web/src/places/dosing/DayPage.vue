<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { dayQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import DayPlanner from './DayPlanner.vue'
import DosingHead from './DosingHead.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => dayQuery(id))
</script>

<template>
  <div class="page">
    <DosingHead side="pH by day and night, and when to dose" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else-if="data.missing.length">
      <p class="my-3">To spread doses over day and night, this is still needed:</p>
      <ul class="mb-3 ml-6">
        <li v-for="one in data.missing" :key="one">{{ one }}</li>
      </ul>
      <v-btn :to="{ name: 'containers', params: { system: id } }">To the containers</v-btn>
    </template>
    <DayPlanner v-else :system="id" :offer="data" />
  </div>
</template>
