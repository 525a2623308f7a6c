<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { harbourQuery, nextQuery } from '../../api/queries'
import BrokenSystems from '../../parts/BrokenSystems.vue'
import NextList from '../../parts/NextList.vue'
import PageHead from '../../parts/PageHead.vue'
import Waiting from '../../parts/Waiting.vue'
import { dayWords, wall } from '../../parts/wall'
import RoundList from './RoundList.vue'
import SystemCard from './SystemCard.vue'
import ExampleOffer from '../../parts/ExampleOffer.vue'

const { data, error, refetch } = useQuery(harbourQuery)
const { data: next } = useQuery(nextQuery)
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <PageHead title="Harbour">
        <span class="soft">
          {{ dayWords(wall(data.now)) }}:
          {{ data.minutes_today ? `${data.minutes_today} minutes of care today` : 'nothing is due today' }}
        </span>
        <span class="grow" />
        <v-btn :to="{ name: 'new-system' }">Add a system</v-btn>
      </PageHead>
      <div v-for="work in data.open_work" :key="work.run_id" class="card open" role="status">
        <b>{{ work.name }}</b> is under way and waiting for you.
        <v-btn size="small" variant="flat" :to="{ name: 'run', params: { run: work.run_id } }">Resume</v-btn>
      </div>
      <BrokenSystems :systems="data.broken" />
      <div v-if="data.systems.length" class="systems">
        <SystemCard
          v-for="system in data.systems"
          :key="system.id"
          :system="system"
          :days="data.ahead_days"
        />
      </div>
      <p v-if="data.archived.length" class="archived soft">
        Archived:
        <router-link
          v-for="one in data.archived"
          :key="one.id"
          :to="{ name: 'setup', params: { system: one.id } }"
          >{{ one.name }}</router-link
        >
      </p>
      <NextList
        v-if="data.systems.length && next"
        :items="next"
        head="Next, over all systems"
        :side="`${next.reduce((sum, item) => sum + item.minutes, 0)} min`"
        empty="Nothing to do now on any system."
        class="all"
      />
      <RoundList v-if="data.systems.length" />
      <div v-else-if="!data.broken.length" class="card empty">
        <h2>Welcome</h2>
        <p>
          Tell Salt Tide about your tank: its litres and name are enough. It answers with the salt for a water
          change, today's dose, and what to do this week.
        </p>
        <p class="first">
          <v-btn variant="flat" :to="{ name: 'start' }">Start with your tank</v-btn>
          <v-btn :to="{ name: 'new-system' }">Enter every detail</v-btn>
          <ExampleOffer v-if="data.example" />
        </p>
        <p class="soft">
          Readings kept elsewhere, in a spreadsheet or another program's table, are
          <router-link :to="{ name: 'log', query: { import: '' } }">imported in the Log</router-link>; their
          tank is set up first.
        </p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.first {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.all {
  margin-top: 18px;
}
.all :deep(.list) {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 0 12px;
}
.systems {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 14px;
}
.archived {
  display: flex;
  gap: 12px;
  margin-top: 10px;
}
.open {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 10px 14px;
  margin-bottom: 14px;
  border-left: 4px solid var(--magenta);
}
.empty {
  padding: 28px;
  max-width: 60ch;
  display: grid;
  gap: 12px;
  justify-items: start;
}
</style>
