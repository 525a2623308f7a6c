<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { alarmsQuery, harbourQuery } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import Waiting from '../../parts/Waiting.vue'
import { useOwnName, useSeen } from '../../parts/useAlarms'
import AlarmRow from './AlarmRow.vue'
import ContactForm from './ContactForm.vue'

/** The household's alarms: what is wrong now, what was, who is told, and what none of it guards against. */
const { data, error, refetch } = useQuery(alarmsQuery)
const { data: harbour } = useQuery(harbourQuery)
const { see, busy } = useSeen()
const name = useOwnName()
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Alarms</h1>
      <span class="ways">
        <router-link
          v-for="one in harbour?.systems"
          :key="one.id"
          :to="{ name: 'limits', params: { system: one.id } }"
          >Limits of {{ one.name }}</router-link
        >
      </span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="columns">
      <div class="parts">
        <section class="card" aria-labelledby="open-title">
          <h2 id="open-title">Now</h2>
          <AlarmRow v-for="one in data.alarms" :key="one.id" :alarm="one" :busy="busy" @see="see(one.id)" />
          <p v-if="!data.watched">Nothing is watched yet: set limits for a tank.</p>
          <p v-else-if="!data.alarms.length">No alarm: nothing that is watched is beyond its limit.</p>
          <div class="name"><FieldText v-model="name" label="Your name on this device" /></div>
        </section>
        <section class="card" aria-labelledby="past-title">
          <h2 id="past-title">Over</h2>
          <AlarmRow v-for="one in data.past" :key="one.id" :alarm="one" />
          <p v-if="!data.past.length" class="note">None so far.</p>
        </section>
      </div>
      <div class="parts">
        <p v-for="one in data.warnings" :key="one" class="departs" role="note">{{ one }}</p>
        <ContactForm :key="JSON.stringify(data.setup)" :stored="data.setup" />
        <section class="card" aria-labelledby="cannot-title">
          <h2 id="cannot-title">What this cannot guard</h2>
          <ul>
            <li v-for="one in data.cannot" :key="one">{{ one }}</li>
          </ul>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
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
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.name {
  max-width: 260px;
  margin-top: 14px;
}
li + li {
  margin-top: 4px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
