<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { setupQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import StartForm from './StartForm.vue'

const { data: setup, error, refetch } = useQuery(setupQuery)
</script>

<template>
  <div class="page">
    <Waiting v-if="!setup" :error="error" :retry="refetch" />
    <StartForm v-else :setup="setup" />
  </div>
</template>
