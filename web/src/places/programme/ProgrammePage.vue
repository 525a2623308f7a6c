<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import CautionNote from '../../parts/CautionNote.vue'
import Waiting from '../../parts/Waiting.vue'
import CoverChoice from './CoverChoice.vue'
import LastingChange from './LastingChange.vue'
import PhaseCard from './PhaseCard.vue'
import ProgrammeNumbers from './ProgrammeNumbers.vue'
import ReviewForm from './ReviewForm.vue'
import ReviewStrip from './ReviewStrip.vue'
import { useProgramme, type Cover } from './useProgramme'

/** A programme against what grows: its phases, what it asks of this tank, and how it goes from look to look. */
const route = useRoute()
const id = Number(route.params.system)
const { data, error, refetch, acts, begin, review, goTo, turn } = useProgramme(id, () =>
  String(route.params.key),
)
const chosen = ref<Cover | ''>('')
const wishes = ref<string[]>([])
const form = ref(0)
watch(data, (now) => (chosen.value ||= (now?.seen as Cover | undefined) || ''), { immediate: true })
const others = computed(() => data.value?.schools.filter((one) => one.key !== data.value?.key) ?? [])
const wrong = computed(() => acts.wrong('when') ?? acts.wrong('coverage') ?? '')
async function look(coverage: Cover, when: string, picture: number | null) {
  if (await review(coverage, when, picture)) form.value++
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>{{ data.name }}</h1>
        <span class="soft">{{ data.system }}, {{ data.school }}</span>
        <span v-if="others.length" class="ways soft"
          >other ways:
          <router-link
            v-for="one in others"
            :key="one.key"
            :to="{ name: 'programme', params: { system: id, key: one.key } }"
            >{{ one.name }}</router-link
          ></span
        >
      </div>
      <p class="note">{{ data.about }}</p>
      <CautionNote v-if="data.caution" :caution="data.caution" />
      <div class="columns">
        <div class="stack">
          <section v-if="data.case_id" class="card standing" aria-label="How it stands">
            <p>
              <b>{{ data.words }}</b>
            </p>
            <p v-if="data.to_do" class="magenta">{{ data.to_do }}</p>
            <p class="acts">
              <router-link v-if="data.to_do" :to="{ name: 'trouble', params: { system: id } }"
                >ask again what it is</router-link
              >
              <button
                class="plain-link"
                type="button"
                :disabled="acts.busy.value"
                @click="turn(data.case_id, data.paused ? 'resumed' : 'paused')"
              >
                {{ data.paused ? 'go on with it' : 'pause' }}
              </button>
              <button
                class="plain-link"
                type="button"
                :disabled="acts.busy.value"
                @click="turn(data.case_id, 'ended')"
              >
                end it here
              </button>
              <router-link :to="{ name: 'cases', params: { system: id } }"
                >give it up, or hand it on</router-link
              >
            </p>
          </section>
          <form v-else class="card begin" @submit.prevent="chosen && begin(chosen, wishes)">
            <h2>How much is there now?</h2>
            <CoverChoice v-model="chosen" :coverages="data.coverages" label="How much is there now?" />
            <label v-for="one in data.wishes" :key="one.key"
              ><input v-model="wishes" type="checkbox" :value="one.key" /> {{ one.name }} too</label
            >
            <v-btn type="submit" :disabled="!chosen || chosen === 'none' || acts.busy.value">Begin</v-btn>
          </form>
          <ReviewForm
            v-if="data.case_id && !data.paused"
            :key="form"
            :system="id"
            :sheet="data"
            :busy="acts.busy.value"
            :wrong="wrong"
            @review="look"
          />
          <section v-if="data.reviews.length" class="card strip" aria-labelledby="strip-title">
            <div class="part-head">
              <h2 id="strip-title">Week by week</h2>
              <span class="soft">tap two to compare them</span>
            </div>
            <ReviewStrip :reviews="data.reviews" />
          </section>
          <LastingChange v-if="data.case_id" :system="id" :sheet="data" />
        </div>
        <div class="stack">
          <section class="card phases" aria-labelledby="phases-title">
            <h2 id="phases-title">Phases</h2>
            <ol>
              <PhaseCard
                v-for="(phase, place) in data.phases"
                :key="phase.key"
                :system="id"
                :phase="phase"
                :place="place + 1"
                :open="data.case_id ? phase.now : !place"
                :busy="acts.busy.value"
                @choose="goTo(phase.key)"
              />
            </ol>
          </section>
          <ProgrammeNumbers :sheet="data" />
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 1240px;
}
.ways {
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 16px;
  margin-top: 10px;
}
.stack {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  align-content: start;
}
.standing,
.begin,
.strip,
.phases {
  padding: 12px 16px;
}
.standing {
  border-left: 4px solid var(--deep);
}
.begin {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.begin > div {
  width: 100%;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
}
ol {
  padding: 0;
  margin: 6px 0 0;
  display: grid;
  gap: 4px;
}
h2 {
  font-size: 1.1rem;
}
p {
  margin: 4px 0;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
