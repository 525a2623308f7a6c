<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Waiting from '../../parts/Waiting.vue'
import ProgressPost from './ProgressPost.vue'
import RunEnd from './RunEnd.vue'
import RunStep from './RunStep.vue'
import { useRun } from './useRun'

const id = Number(useRoute().params.run)
const router = useRouter()
const run = useRun(id)
const { data, error, refetch, refused, busy } = run
const leaving = ref(false)
const reason = ref('')
const heading = ref<HTMLElement>()

watch(
  () => data.value?.current?.id,
  (now, before) => {
    if (before && now) heading.value?.focus()
  },
  { flush: 'post' },
)
function pause() {
  void router.push({ name: 'sheet', params: { system: data.value?.system_id ?? 1 } })
}
async function abandon() {
  if (await run.abandon(reason.value)) leaving.value = false
}
</script>

<template>
  <div class="run">
    <Waiting v-if="!data" :error="error" :retry="refetch" class="page" />
    <template v-else>
      <header>
        <b>{{ data.name }}</b>
        <span>
          <button v-if="!data.ended" class="plain-link" type="button" @click="leaving = true">abandon</button>
          <button class="plain-link" type="button" @click="pause()">
            {{ data.ended ? 'close' : 'pause' }}
          </button>
        </span>
      </header>
      <div class="work">
        <ProgressPost :steps="data.steps" :number="data.number" />
        <section>
          <RunEnd v-if="data.ended" :run="data" />
          <template v-else-if="data.current">
            <p class="note">{{ data.number }} of {{ data.count }} · {{ data.current.kind }}</p>
            <h1 ref="heading" tabindex="-1">{{ data.current.title }}</h1>
            <RunStep
              :key="data.current.id"
              :step="data.current"
              :refused="refused"
              :busy="busy"
              @say="run.say(data.current!.id, $event)"
            />
            <button
              v-if="data.number > 1"
              class="plain-link back"
              type="button"
              @click="run.say(data!.steps[data!.number - 2]!.id, { kind: 'reopen' })"
            >
              back to “{{ data.steps[data.number - 2]!.title }}”
            </button>
          </template>
        </section>
      </div>
      <footer v-if="data.still_off.length && !data.ended" class="still">
        <b class="magenta">Still off</b>
        <div>{{ data.still_off.join(' · ') }}</div>
        <div class="note">each is confirmed on before this ends</div>
      </footer>
    </template>
    <v-dialog v-model="leaving">
      <v-card title="Abandon this work?">
        <form @submit.prevent="abandon">
          <v-card-text>
            <p v-if="data?.still_off.length" class="magenta mb-3">
              Still off: {{ data.still_off.join(', ') }}. See to each before you leave the tank.
            </p>
            <v-text-field
              v-model="reason"
              label="Why"
              autofocus
              :error-messages="refused?.at('reason')"
              maxlength="300"
            />
            <p class="note mt-2">
              What was drained and filled so far goes into the record; the change stays on the rota.
            </p>
          </v-card-text>
          <v-card-actions>
            <v-btn type="button" @click="leaving = false">Go on working</v-btn>
            <v-btn type="submit" variant="flat">Abandon it</v-btn>
          </v-card-actions>
        </form>
      </v-card>
    </v-dialog>
  </div>
</template>

<style scoped>
.run {
  max-width: 620px;
  margin: 0 auto;
  min-height: 100vh;
  display: flex;
  flex-direction: column;
}
header {
  display: flex;
  justify-content: space-between;
  padding: 16px 20px;
  border-bottom: 1px solid var(--line);
  font-size: 1.05rem;
}
header .plain-link + .plain-link {
  margin-left: 18px;
}
.work {
  display: grid;
  grid-template-columns: 26px 1fr;
  gap: 18px;
  padding: 20px 20px 30px;
  flex: 1;
}
h1 {
  outline: none;
  font-size: 1.7rem !important;
}
.back {
  margin-top: 22px;
  color: var(--soft);
}
.still {
  position: sticky;
  bottom: 0;
  background: var(--card);
  border-top: 1px solid var(--line);
  padding: 12px 20px;
}
</style>
