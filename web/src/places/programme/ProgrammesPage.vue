<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { programmesQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'

/** The programmes against what grows: under way, for what was seen, and the rest. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => programmesQuery(id))
const groups = computed(() =>
  [
    { title: 'Under way', list: data.value?.filter((one) => one.live) ?? [] },
    { title: 'For what was seen', list: data.value?.filter((one) => !one.live && one.seen) ?? [] },
    { title: 'All others', list: data.value?.filter((one) => !one.live && !one.seen) ?? [] },
  ].filter((group) => group.list.length),
)
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Programmes</h1>
      <span class="soft">weeks of work against what grows, and the routine put back after</span>
      <router-link :to="{ name: 'trouble', params: { system: id } }" class="ways">what is it?</router-link>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <section v-for="group in groups" :key="group.title" :aria-label="group.title">
      <h2>{{ group.title }}</h2>
      <ul>
        <li v-for="one in group.list" :key="one.key">
          <router-link :to="{ name: 'programme', params: { system: id, key: one.key } }" class="one">
            <b>{{ one.name }}</b>
            <span class="soft">{{ one.school }}</span>
            <span v-if="one.live">{{ one.words }}</span>
            <span v-else class="soft">{{ one.about }}</span>
          </router-link>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.ways {
  margin-left: auto;
}
h2 {
  font-size: 1.1rem;
  margin: 10px 0 6px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 320px), 1fr));
  gap: 8px;
}
.one {
  display: flex;
  flex-direction: column;
  gap: 2px;
  height: 100%;
  padding: 12px 16px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--card);
  color: var(--ink);
  text-decoration: none;
}
.one b {
  font-size: 1.1rem;
}
.one:hover b,
.one:focus-visible b {
  text-decoration: underline;
}
</style>
