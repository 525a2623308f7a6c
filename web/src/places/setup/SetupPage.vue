<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { answer, api } from '../../api/client'
import { setupQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import SetupForm from './SetupForm.vue'

const route = useRoute()
const id = route.params.system ? Number(route.params.system) : undefined
const { data: setup, error, refetch } = useQuery(setupQuery)
const stored = useQuery({
  key: ['system', id ?? 0],
  query: () => answer(api.GET('/api/systems/{system_id}', { params: { path: { system_id: id! } } })),
  enabled: id !== undefined,
  staleTime: 0,
})
const ready = computed(() => setup.value && (id === undefined || stored.data.value))
</script>

<template>
  <div class="page">
    <Waiting v-if="!ready" :error="error ?? stored.error.value" :retry="refetch" />
    <SetupForm v-else :setup="setup!" :system="stored.data.value" />
  </div>
</template>
