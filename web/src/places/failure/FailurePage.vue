<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { failuresQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import FailureRow from './FailureRow.vue'
import HelpList from './HelpList.vue'
import PowerCard from './PowerCard.vue'

/** What can fail in a tank, what happens then here, and what keeps it away. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => failuresQuery(id))
const groups = computed(() => {
  const all = data.value?.failures ?? []
  return [
    { title: 'Nothing prevents these', list: all.filter((one) => !one.missing.length && one.open > 0) },
    { title: 'Prevented, or harmless here', list: all.filter((one) => !one.missing.length && !one.open) },
    { title: 'Not known yet', list: all.filter((one) => one.missing.length) },
  ].filter((group) => group.list.length)
})
const missing = computed(() => [...new Set(data.value?.failures.flatMap((one) => one.missing))])
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>What can fail</h1>
      <span v-if="data" class="soft">{{ data.name }}: what happens, how fast, and what prevents it</span>
      <span class="ways">
        <router-link :to="{ name: 'installation', params: { system: id } }"
          >levels, top-off, heat</router-link
        >
        <router-link :to="{ name: 'top-off', params: { system: id } }">top-off</router-link>
      </span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="columns">
      <div>
        <section v-for="(group, place) in groups" :key="group.title" :aria-label="group.title">
          <h2>{{ group.title }}</h2>
          <ol>
            <FailureRow
              v-for="one in group.list"
              :key="`${one.key} ${one.subject}`"
              :one="one"
              :system="id"
              :quiet="place > 0"
            />
          </ol>
        </section>
        <PowerCard :board="data" :system="id" />
      </div>
      <aside>
        <section v-if="missing.length" class="card" aria-labelledby="missing-title">
          <h2 id="missing-title">Measure first</h2>
          <ul>
            <li v-for="one in missing" :key="one">{{ one }}</li>
          </ul>
          <router-link :to="{ name: 'installation', params: { system: id } }"
            >Enter it on the drawing</router-link
          >
        </section>
        <section v-if="data.doubts.length" class="card" aria-labelledby="doubts-title">
          <h2 id="doubts-title">Does this fit together?</h2>
          <p v-for="one in data.doubts" :key="one">{{ one }}</p>
          <router-link :to="{ name: 'installation', params: { system: id } }">Look at the levels</router-link>
        </section>
        <HelpList :helps="data.helps" />
        <section v-if="data.present.length" class="card" aria-labelledby="present-title">
          <h2 id="present-title">Already there</h2>
          <ul>
            <li v-for="one in data.present" :key="one">{{ one }}</li>
          </ul>
        </section>
        <p class="note">
          Estimates from this tank’s measures; likelihood and effort are our judgement. Plumbing and fixed
          wiring follow the local code and belong to licensed trades.
        </p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
}
.ways {
  margin-left: auto;
  display: flex;
  gap: 16px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 360px);
  gap: 24px;
  align-items: start;
}
h2 {
  font-size: 1.1rem;
  margin: 4px 0 8px;
}
ol {
  list-style: none;
  padding: 0;
  margin: 0 0 18px;
}
aside {
  display: grid;
  gap: 12px;
}
aside .card {
  padding: 12px 16px;
}
aside ul {
  padding-left: 18px;
  margin: 0 0 6px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
