<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { topOffQuery } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import Waiting from '../../parts/Waiting.vue'
import FailureRow from '../failure/FailureRow.vue'
import FactList from './FactList.vue'

/** The top-off of a tank: what evaporates, how long the reservoir lasts, what stops it, what happens when it sticks. */
const id = Number(useRoute().params.system)
const typedDays = ref('14')
const days = computed(() => {
  const number = Math.round(Number(typedDays.value))
  return number >= 1 && number <= 90 ? number : 14
})
const wrong = computed(() => (Number(typedDays.value) === days.value ? undefined : '1 to 90 days'))
const { data, error, refetch } = useQuery(() => topOffQuery({ id, days: days.value }))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Top-off</h1>
      <span v-if="data" class="soft">{{ data.name }}</span>
      <span class="ways">
        <router-link :to="{ name: 'installation', params: { system: id } }">as it is built</router-link>
        <router-link :to="{ name: 'failures', params: { system: id } }">what can fail</router-link>
      </span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="columns">
      <div class="parts">
        <section class="card" aria-labelledby="use-title">
          <h2 id="use-title">What it uses, and what is left</h2>
          <FactList :facts="[data.evaporation, ...data.reservoir]" />
          <p v-for="one in data.doubts" :key="one" class="departs" role="note">
            {{ one }} <router-link :to="{ name: 'log' }">Look in the Log</router-link>
          </p>
          <p v-if="!data.reservoir.length" class="note">
            Topped off by hand. With a reservoir,
            <router-link :to="{ name: 'installation', params: { system: id } }">enter its litres</router-link>
            and its days follow.
          </p>
        </section>
        <section class="card" aria-labelledby="away-title">
          <h2 id="away-title">Away for a while</h2>
          <div class="days">
            <FieldText v-model="typedDays" label="Days away" unit="days" :error="wrong" />
          </div>
          <FactList :facts="data.away" />
        </section>
        <section class="card" aria-labelledby="ways-title">
          <h2 id="ways-title">How it is topped off</h2>
          <FactList :facts="[...data.refills, ...data.lids]" />
        </section>
        <section v-if="data.salt.length" class="card" aria-labelledby="salt-title">
          <h2 id="salt-title">Salt that leaves</h2>
          <FactList :facts="data.salt" />
        </section>
      </div>
      <div class="parts">
        <section v-if="data.automatic" class="card" aria-labelledby="stops-title">
          <h2 id="stops-title">What stops it</h2>
          <ul>
            <li v-for="one in data.stops" :key="one.words">{{ one.words }}</li>
          </ul>
          <p :class="{ departs: !data.guarded }" role="note">{{ data.guards }}</p>
          <p v-if="data.shared">{{ data.shared }}</p>
          <p>
            <router-link :to="{ name: 'task', params: { system: id, task: 'top_off_test' } }"
              >Tested: {{ data.tested || 'never recorded' }}</router-link
            >
          </p>
          <p class="note">
            An electric valve never counts alone. A line to the mains needs a leak shut-off of its own, and
            the local plumbing code decides how it may be connected.
          </p>
        </section>
        <section aria-labelledby="sticks-title">
          <h2 id="sticks-title">If it sticks</h2>
          <ol>
            <FailureRow
              v-for="one in data.failures"
              :key="one.key"
              :one="one"
              :system="id"
              :quiet="!one.open"
            />
          </ol>
        </section>
      </div>
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
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 24px;
  align-items: start;
}
.parts {
  display: grid;
  gap: 16px;
}
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
  margin-bottom: 6px;
}
.days {
  max-width: 180px;
}
ol {
  list-style: none;
  padding: 0;
}
ul {
  padding-left: 18px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
