<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { whatIfQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import WhatIf from './WhatIf.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => whatIfQuery(id))
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <WhatIf v-else :system="id" :offer="data" />
  </div>
</template>
