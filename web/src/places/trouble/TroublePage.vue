<script setup lang="ts">
import { useRoute } from 'vue-router'
import Waiting from '../../parts/Waiting.vue'
import KeyQuestion from './KeyQuestion.vue'
import LikelyCard from './LikelyCard.vue'
import { useKey } from './useKey'

/** What is growing, or wrong? A few taps, beside what the record knows already. */
const id = Number(useRoute().params.system)
const { data, error, refetch, asking, said, unlike, say, forget, back, restart } = useKey(id)
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>What is it?</h1>
      <span v-if="data" class="soft">{{ data.name }}: tap what you see; your record answers the rest</span>
      <span v-if="said.length || unlike.length" class="ways">
        <button v-if="said.length" type="button" class="plain-link" @click="back">back</button>
        <button type="button" class="plain-link" @click="restart">start again</button>
      </span>
    </div>
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <div v-else class="columns" :class="{ begun: data.likely.length }">
      <div>
        <p v-if="data.answered.length" class="chips" aria-label="Your answers">
          <span v-for="one in data.answered" :key="one.question" class="chip">
            {{ one.words }}
            <span v-if="one.by_record" class="soft">by your record</span>
            <button
              type="button"
              :aria-label="`Take back: ${one.words}`"
              @click="forget(one.question, one.by_record)"
            >
              ×
            </button>
          </span>
        </p>
        <KeyQuestion
          v-if="data.ask"
          :question="data.ask"
          :asking="asking"
          @answer="(key) => say(data!.ask!.key, key)"
          @skip="say(data.ask.key, '')"
        />
        <p v-else class="note">More taps would not tell more. A closer look may.</p>
        <p v-if="data.known.length" class="soft">Your record also shows: {{ data.known.join('; ') }}.</p>
      </div>
      <div v-if="data.likely.length">
        <h2>Likely, in this order</h2>
        <ul aria-label="Likely troubles">
          <LikelyCard
            v-for="(one, place) in data.likely"
            :key="one.key"
            :one="one"
            :first="!place"
            :system="id"
          />
        </ul>
        <KeyQuestion
          v-if="data.apart"
          :question="data.apart"
          :asking="asking"
          closer
          class="apart card"
          @answer="(key) => say(data!.apart!.key, key)"
        />
        <p class="note">
          The shares come from a table of how often each sign goes with each trouble, which is a judgement:
          none is ever certain. In danger now?
          <router-link :to="{ name: 'emergencies', params: { system: id } }">Emergency</router-link>
        </p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: 1180px;
}
.ways {
  margin-left: auto;
  display: flex;
  gap: 12px;
}
.columns.begun {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 24px;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0 0 10px;
}
.chip {
  border: 1px solid var(--soft);
  border-radius: 16px;
  padding: 2px 12px;
}
.chip button {
  min-width: 28px;
  font-size: 1.1rem;
  cursor: pointer;
}
h2 {
  font-size: 1.1rem;
  margin-bottom: 6px;
}
ul {
  padding: 0;
  margin: 0;
}
.apart {
  padding: 12px 16px;
  margin-top: 12px;
}
@media (max-width: 860px) {
  .columns.begun {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
