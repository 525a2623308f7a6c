<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { casesQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import CaseCard from './CaseCard.vue'

/** What was tried in a system and what it did: plans that are followed, and those that ended. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => casesQuery(id))
const live = computed(() => data.value?.filter((one) => one.live) ?? [])
const past = computed(() => data.value?.filter((one) => !one.live) ?? [])
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Plans</h1>
        <span class="soft">what was tried, and what it did</span>
        <router-link :to="{ name: 'plans' }" class="soft">all systems</router-link>
      </div>
      <p v-if="!data.length" class="note">
        No plan yet. When something is out of its band, the sheet says what can be done about it. The plan you
        choose is followed here from test to test.
      </p>
      <section v-if="live.length" aria-labelledby="live-title">
        <h2 id="live-title">Followed now</h2>
        <CaseCard v-for="one in live" :key="one.id" :system="id" :one="one" link />
      </section>
      <section v-if="past.length" aria-labelledby="past-title">
        <h2 id="past-title">Done and ended</h2>
        <CaseCard v-for="one in past" :key="one.id" :system="id" :one="one" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
h2 {
  font-size: 1.1rem;
  margin: 10px 0 8px;
}
</style>
