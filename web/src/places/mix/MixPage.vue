<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { mixQuery } from '../../api/queries'
import SaltLabel from '../../parts/SaltLabel.vue'
import PageHead from '../../parts/PageHead.vue'
import Waiting from '../../parts/Waiting.vue'
import BatchCards from './BatchCards.vue'
import MixPlanner from './MixPlanner.vue'

const { data, error, refetch } = useQuery(mixQuery)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <PageHead title="Mix">
        <span class="soft">a batch of new water, for one system or several</span>
      </PageHead>
      <BatchCards :batches="data.batches" />
      <template v-if="!data.body">
        <p class="my-3">To mix a batch, this is still needed: {{ data.missing.join(', ') }}.</p>
        <SaltLabel v-if="!data.salts.length" class="mt-4" />
      </template>
      <MixPlanner v-else :offer="data" :first="data.body" />
    </template>
  </div>
</template>
