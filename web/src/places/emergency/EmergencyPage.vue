<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { emergenciesQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'

/** What is wrong? One press opens the sheet; what the record shows now stands first. */
const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => emergenciesQuery(id))
const urgent = computed(() => data.value?.filter((one) => one.seen || one.run_id) ?? [])
const others = computed(() => data.value?.filter((one) => !one.seen && !one.run_id) ?? [])
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Emergency</h1>
      <span class="soft">what is wrong? Press it: what to do first, with this tank’s amounts</span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <p v-if="urgent.length" class="note">Your record shows this now:</p>
      <ul v-for="(list, part) in [urgent, others]" :key="part" class="sheets">
        <li v-for="one in list" :key="one.key">
          <router-link
            :to="{ name: 'emergency-sheet', params: { system: id, sheet: one.key } }"
            class="sheet"
            :class="{ urgent: one.seen || one.run_id }"
          >
            <b>{{ one.name }}</b>
            <span v-if="one.run_id" class="magenta">under way</span>
            <span class="soft">{{ one.signs.join(' · ') }}</span>
          </router-link>
        </li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.sheets {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr));
  gap: 8px;
}
.sheet {
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-height: 76px;
  height: 100%;
  padding: 12px 16px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--card);
  color: var(--ink);
  text-decoration: none;
}
.sheet b {
  font-size: 1.12rem;
}
.sheet span {
  font-size: 0.88rem;
}
.urgent {
  border-color: var(--magenta);
}
.sheet:hover b,
.sheet:focus-visible b {
  text-decoration: underline;
}
</style>
