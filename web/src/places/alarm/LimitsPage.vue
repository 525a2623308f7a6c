<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { systemAlarmsQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import LimitForm from './LimitForm.vue'

/** What is watched of a tank, what its sensors say, and where they come from. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => systemAlarmsQuery(id))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Alarm limits</h1>
      <span v-if="data" class="soft">{{ data.system }}</span>
      <router-link :to="{ name: 'alarms' }">alarms, and who is told</router-link>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <LimitForm
      v-else
      :id="id"
      :key="JSON.stringify([data.signals.map((one) => [one.on, one.limit]), data.url])"
      :stored="data"
    />
  </div>
</template>

<style scoped>
.page {
  max-width: 1100px;
}
</style>
