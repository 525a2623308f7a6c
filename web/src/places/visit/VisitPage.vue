<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { answer, api } from '../../api/client'
import CarerSheet from '../../parts/CarerSheet.vue'
import Waiting from '../../parts/Waiting.vue'
import VisitReport from './VisitReport.vue'

/** The carer's own page: the sheet, and a report for each system. It stands outside the app and knows nothing of it. */
const props = defineProps<{ token: string }>()
const params = { path: { token: props.token } }
const { data, error, refetch } = useQuery({
  key: ['visit', props.token],
  query: () => answer(api.GET('/api/visits/{token}', { params })),
})
const print = () => window.print()
</script>

<template>
  <v-app>
    <v-main>
      <div class="page">
        <Waiting v-if="!data" :error="error" :retry="refetch" />
        <template v-else>
          <div class="page-head">
            <h1>
              Hand-over<template v-if="data.sheet.carer"> for {{ data.sheet.carer }}</template>
            </h1>
            <span class="soft">{{ data.sheet.days }}, {{ data.sheet.visits }}</span>
            <button class="plain-link no-print" type="button" @click="print">print</button>
          </div>
          <CarerSheet :sheet="data.sheet" :today="data.today">
            <template #default="{ one }">
              <VisitReport :one="one" :token="token" :today="data.today" />
            </template>
          </CarerSheet>
        </template>
      </div>
    </v-main>
  </v-app>
</template>

<style scoped>
.page {
  max-width: 1000px;
  margin: 0 auto;
}
</style>
