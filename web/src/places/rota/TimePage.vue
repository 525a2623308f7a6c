<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { minutesQuery, workloadQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import AwayPart from './AwayPart.vue'
import RotaHead from './RotaHead.vue'
import WeekForm from './WeekForm.vue'
import WorkloadPart from './WorkloadPart.vue'

const { data, error, refetch } = useQuery(minutesQuery)
const { data: load, error: unread, refetch: again } = useQuery(workloadQuery)
</script>

<template>
  <div class="page">
    <RotaHead side="the minutes you have, and when you are away" />
    <Waiting v-if="!data || !load" :error="error ?? unread" :retry="() => [refetch(), again()]" />
    <template v-else>
      <WorkloadPart :data="load" />
      <div class="planner">
        <WeekForm :key="data.week.join()" :minutes="data" />
        <AwayPart :minutes="data" />
      </div>
    </template>
  </div>
</template>
