<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { correctionQuery, shelfQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import CorrectionPlanner from './CorrectionPlanner.vue'
import DosingHead from './DosingHead.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => correctionQuery(id))
const { data: shelf } = useQuery(shelfQuery)
</script>

<template>
  <div class="page">
    <DosingHead side="what is out of its target, brought there by days" />
    <Waiting v-if="!data || !shelf" :error="error" :retry="refetch" />
    <template v-else>
      <p v-if="data.off_course" class="off" role="alert">{{ data.off_course }}</p>
      <p v-else-if="data.under_way" class="soft mb-2">
        {{ data.under_way }} A new plan replaces them.
        <router-link :to="{ name: 'rota' }">See the rota</router-link>
      </p>
      <p v-if="!data.aims.length" class="my-3">
        Nothing that a dose can raise has been tested yet.
        <router-link :to="{ name: 'bench', params: { system: id } }">To the Bench</router-link>
      </p>
      <CorrectionPlanner
        v-else
        :key="data.under_way"
        :system="id"
        :offer="data"
        :additives="shelf.additives"
      />
    </template>
  </div>
</template>

<style scoped>
.off {
  border-left: 4px solid var(--magenta);
  padding-left: 12px;
  margin-bottom: 12px;
  font-weight: 600;
}
</style>
