<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, command } from '../../api/client'
import { causeQuery } from '../../api/queries'
import ChemText from '../../parts/ChemText.vue'
import Waiting from '../../parts/Waiting.vue'
import { useCommands } from '../../parts/useCommands'
import CaseCard from './CaseCard.vue'
import CourseChart from './CourseChart.vue'
import RemedyCard from './RemedyCard.vue'

/** One cause: what speaks for it, what can be done about it, and the plan that is followed. */
const route = useRoute()
const id = Number(route.params.system)
const key = String(route.params.cause)
const { data, error, refetch } = useQuery(() => causeQuery({ id, cause: key }))
const acts = useCommands()
const fitting = computed(() => data.value?.remedies.filter((one) => one.fits) ?? [])
const others = computed(() => data.value?.remedies.filter((one) => !one.fits) ?? [])
const evidence = ref(false)

function choose(remedy: string) {
  void acts.run(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/remedies/{cause}', {
        params: { header, path: { system_id: id, cause: key } },
        body: { remedy },
      }),
    ),
  )
}
function forget() {
  void acts.run(() =>
    command((header) =>
      api.DELETE('/api/systems/{system_id}/remedies/{cause}/preference', {
        params: { header, path: { system_id: id, cause: key } },
      }),
    ),
  )
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>{{ data.words }}</h1>
        <span class="soft">{{ data.certainty }}</span>
      </div>
      <p class="reason"><ChemText :text="data.reason" /></p>
      <p class="row">
        <button
          v-if="data.evidence.length"
          class="plain-link"
          type="button"
          :aria-expanded="evidence"
          @click="evidence = !evidence"
        >
          Evidence
        </button>
        <router-link class="plain-link" :to="{ name: 'cases', params: { system: id } }"
          >All plans of this system</router-link
        >
      </p>
      <p v-if="data.emergencies.length" class="row">
        <b>Animals in danger now?</b>
        <router-link
          v-for="one in data.emergencies"
          :key="one.key"
          class="plain-link"
          :to="{ name: 'emergency-sheet', params: { system: id, sheet: one.key } }"
          >{{ one.name }}</router-link
        >
      </p>
      <div v-if="evidence" class="evidence">
        <ul>
          <li v-for="fact in data.evidence" :key="fact">{{ fact }}</li>
          <li v-for="one in data.explained" :key="one.words">
            {{ one.words }}. <span class="soft">{{ one.reason }}</span>
          </li>
        </ul>
        <p><b>This would change with:</b> {{ data.unless }}</p>
      </div>
      <section v-if="data.case" aria-labelledby="case-title">
        <h2 id="case-title">The plan you chose</h2>
        <CaseCard :system="id" :one="data.case" />
      </section>
      <div class="columns">
        <section v-if="fitting.length" aria-labelledby="ways-title">
          <h2 id="ways-title">{{ data.case ? 'Other ways' : 'What you can do' }}</h2>
          <p v-if="data.preferred" class="soft small">
            What you chose before comes first.
            <button class="plain-link" type="button" :disabled="acts.busy.value" @click="forget">
              use the usual order
            </button>
          </p>
          <RemedyCard
            v-for="(one, index) in fitting"
            :key="one.key"
            :remedy="one"
            :first="index === 0 && !data.case"
            :busy="acts.busy.value"
            @choose="choose(one.key)"
          />
        </section>
        <aside>
          <CourseChart v-if="data.course" :course="data.course" />
          <template v-if="others.length">
            <h2>Not enough, or too much</h2>
            <RemedyCard
              v-for="one in others"
              :key="one.key"
              :remedy="one"
              :first="false"
              :busy="acts.busy.value"
            />
          </template>
          <template v-if="data.tried.length">
            <h2>Tried before</h2>
            <CaseCard v-for="one in data.tried" :key="one.id" :system="id" :one="one" />
          </template>
        </aside>
      </div>
    </template>
  </div>
</template>

<style scoped>
.reason {
  max-width: 760px;
}
.row {
  display: flex;
  gap: 18px;
}
.evidence {
  margin: 6px 0 10px;
  max-width: 820px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 6fr) minmax(0, 5fr);
  gap: 12px 30px;
  align-items: start;
}
h2 {
  font-size: 1.1rem;
  margin: 10px 0 8px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
