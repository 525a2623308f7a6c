<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { dosingQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import DosingHead from './DosingHead.vue'
import RoutinePlanner from './RoutinePlanner.vue'
import UptakePart from './UptakePart.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => dosingQuery(id))
</script>

<template>
  <div class="page">
    <DosingHead :name="data?.name" side="what is used up and what replaces it" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else-if="data.missing.length">
      <p class="my-3">To work out what is used up, this is still needed: {{ data.missing.join(', ') }}.</p>
      <v-btn :to="{ name: 'bench', params: { system: id } }">To the Bench</v-btn>
    </template>
    <template v-else>
      <UptakePart :offer="data" />
      <RoutinePlanner :system="id" :offer="data" />
    </template>
  </div>
</template>
