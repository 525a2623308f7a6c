<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { offerQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import ChangePlanner from './ChangePlanner.vue'
import SaltLabel from '../../parts/SaltLabel.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => offerQuery(id))
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else-if="!data.request">
      <h1>Water change, {{ data.name }}</h1>
      <p class="my-3">To plan one, this is still needed: {{ data.missing.join(', ').toLowerCase() }}.</p>
      <v-btn v-if="data.untested" variant="flat" :to="{ name: 'bench', params: { system: id } }"
        >To the Bench</v-btn
      >
      <SaltLabel v-if="!data.salts.length" class="mt-4" />
    </template>
    <ChangePlanner v-else :offer="data" :first="data.request" />
  </div>
</template>
