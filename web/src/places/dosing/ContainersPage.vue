<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { containersQuery } from '../../api/queries'
import CautionList from '../../parts/CautionList.vue'
import Waiting from '../../parts/Waiting.vue'
import ContainerCard from './ContainerCard.vue'
import ContainerForm from './ContainerForm.vue'
import DosingHead from './DosingHead.vue'
import { BASE } from '../../parts/example'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => containersQuery(id))
const adding = ref(false)
</script>

<template>
  <div class="page">
    <DosingHead :name="data?.name" side="what is left, and whether the pumps deliver" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="planner">
      <section>
        <p v-if="!data.containers.length" class="my-3">
          No containers yet. Set one up, and its level will show what it really delivers.
        </p>
        <ContainerCard
          v-for="one in data.containers"
          :key="one.id"
          :system="id"
          :container="one"
          :answer="data"
        />
        <v-btn v-if="!adding" variant="outlined" @click="adding = true">Set up a container</v-btn>
        <ContainerForm v-else :system="id" :additives="data.additives" @done="adding = false" />
      </section>
      <aside>
        <h2>Never mix these</h2>
        <p v-if="!data.apart.length" class="note">Nothing here would precipitate together.</p>
        <p v-for="line in data.apart" :key="line" class="small">{{ line }}</p>
        <template v-if="data.containers.some((one) => one.pump)">
          <h2 class="mt-4">The pumps' schedule as a file</h2>
          <p class="small soft">Open formats that a pump, or a script that drives one, can read.</p>
          <p class="ways">
            <a :href="`${BASE}/api/systems/${id}/containers/schedule.json`" download>JSON</a>
            <a :href="`${BASE}/api/systems/${id}/containers/schedule.csv`" download>CSV</a>
          </p>
        </template>
        <CautionList :cautions="data.cautions" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.small {
  font-size: 0.9rem;
}
.ways {
  display: flex;
  gap: 18px;
}
</style>
