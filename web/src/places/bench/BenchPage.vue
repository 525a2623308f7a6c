<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { benchQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import BenchForm from './BenchForm.vue'

const route = useRoute()
const id = Number(route.params.system)
const { data, error, refetch } = useQuery(() => benchQuery(id))
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <BenchForm v-else :bench="data" :look="route.hash === '#look'" />
  </div>
</template>
