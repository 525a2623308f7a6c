<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { installationQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import InstallationForm from './InstallationForm.vue'

/** How a tank is installed: its levels on a drawing, its top-off, what warms and cools it. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => installationQuery(id))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Levels, top-off, heat</h1>
      <span class="soft">as the tank is built: drag a level on the drawing, or type it</span>
      <router-link class="ways" :to="{ name: 'failures', params: { system: id } }">what can fail</router-link>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <InstallationForm v-else :key="JSON.stringify(data)" :system="id" :stored="data" />
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
}
.ways {
  margin-left: auto;
}
</style>
