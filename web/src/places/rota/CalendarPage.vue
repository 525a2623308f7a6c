<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { calendarQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import AbsencesIn from './AbsencesIn.vue'
import CalendarForm from './CalendarForm.vue'
import ReminderPart from './ReminderPart.vue'
import RotaHead from './RotaHead.vue'

const { data, error, refetch } = useQuery(calendarQuery)
</script>

<template>
  <div class="page">
    <RotaHead side="the rota in your own calendar, and your absences out of it" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="planner">
      <CalendarForm :kept="data" />
      <div>
        <AbsencesIn />
        <ReminderPart />
      </div>
    </div>
  </div>
</template>
