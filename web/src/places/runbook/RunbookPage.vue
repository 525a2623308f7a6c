<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import Waiting from '../../parts/Waiting.vue'
import AbandonDialog from './AbandonDialog.vue'
import ProgressPost from './ProgressPost.vue'
import RunEnd from './RunEnd.vue'
import RunStep from './RunStep.vue'
import TimerRow from './TimerRow.vue'
import TroubleSheet from './TroubleSheet.vue'
import { useRun } from './useRun'
import { useTimers } from './useTimers'

const id = Number(useRoute().params.run)
const router = useRouter()
const run = useRun(id)
const { data, error, refetch, refused, busy } = run
const timers = useTimers(data)
const leaving = ref(false)
const listing = ref(false)
const heading = ref<HTMLElement>()

/* The core says which step comes first; the keeper may take another that stands open. */
const picked = ref('')
const step = computed(
  () =>
    data.value?.open.find((one) => one.id === picked.value) ??
    data.value?.open.find((one) => one.id === data.value?.current),
)
const others = computed(() => data.value?.open.filter((one) => one.id !== step.value?.id) ?? [])
const trouble = computed(() => data.value?.troubles.find((one) => data.value?.troubles_on.includes(one.key)))
const before = computed(() => data.value?.steps[(step.value?.number ?? 1) - 2])

watch(
  () => data.value?.current,
  (now, earlier) => {
    picked.value = ''
    if (earlier && now) heading.value?.focus()
  },
  { flush: 'post' },
)
function leave() {
  const system = data.value?.system_id
  void router.push(system ? { name: 'sheet', params: { system } } : { name: 'mix' })
}
async function abandon(reason: string) {
  if (await run.abandon(reason)) leaving.value = false
}
function meet(key: string) {
  listing.value = false
  void run.say('', { kind: 'trouble', item: key })
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
          <button
            v-if="!data.ended && !data.paused"
            class="plain-link"
            type="button"
            @click="run.say('', { kind: 'pause' })"
          >
            pause
          </button>
          <button class="plain-link" type="button" @click="leave()">close</button>
        </span>
      </header>
      <div class="work">
        <ProgressPost :steps="data.steps" :number="step?.number ?? data.number" />
        <section>
          <RunEnd v-if="data.ended" :run="data" />
          <template v-else-if="data.paused">
            <h1>Paused</h1>
            <p class="my-3">Timers keep running. Anyone can resume, here or on another device.</p>
            <v-btn block size="x-large" variant="flat" @click="run.say('', { kind: 'resume' })">Resume</v-btn>
          </template>
          <template v-else-if="trouble">
            <TimerRow :timers="timers" shown="" />
            <TroubleSheet :trouble="trouble" @settled="run.say('', { kind: 'settled', item: trouble.key })" />
          </template>
          <template v-else-if="step">
            <TimerRow :timers="timers" :shown="step.id" @go="picked = $event" />
            <p class="note">{{ step.number }} of {{ data.count }}</p>
            <h1 ref="heading" tabindex="-1">{{ step.title }}</h1>
            <RunStep
              :key="step.id"
              :run="id"
              :step="step"
              :timers="timers"
              :refused="refused"
              :busy="busy"
              @say="run.say(step!.id, $event)"
            />
            <div v-if="others.length" class="meanwhile">
              <h2>Open as well</h2>
              <button v-for="one in others" :key="one.id" type="button" class="chip" @click="picked = one.id">
                {{ one.title }}
              </button>
            </div>
            <div class="foot">
              <button
                v-if="data.troubles.length"
                class="plain-link"
                type="button"
                @click="listing = !listing"
              >
                something goes wrong
              </button>
              <button
                v-if="before"
                class="plain-link soft"
                type="button"
                @click="run.say(before!.id, { kind: 'reopen' })"
              >
                back to “{{ before.title }}”
              </button>
            </div>
            <div v-if="listing" class="list">
              <button
                v-for="one in data.troubles"
                :key="one.key"
                type="button"
                class="chip"
                @click="meet(one.key)"
              >
                {{ one.title }}
              </button>
            </div>
          </template>
        </section>
      </div>
      <footer v-if="data.still_off.length && !data.ended" class="still">
        <b class="magenta">Still off</b>
        <div>{{ data.still_off.join(' · ') }}</div>
        <div class="note">confirm each is back on before you finish</div>
      </footer>
    </template>
    <AbandonDialog v-model="leaving" :off="data?.still_off ?? []" :refused="refused" @abandon="abandon" />
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
  gap: 12px;
  padding: 16px 20px;
  border-bottom: 1px solid var(--line);
  font-size: 1.05rem;
}
header span {
  display: flex;
  gap: 18px;
  white-space: nowrap;
}
.work {
  display: grid;
  grid-template-columns: 26px 1fr;
  gap: 18px;
  padding: 20px 20px 30px;
  flex: 1;
}
section {
  min-width: 0;
}
h1 {
  outline: none;
  font-size: 1.7rem !important;
}
.meanwhile {
  margin-top: 18px;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
}
.meanwhile h2 {
  width: 100%;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 18px;
  margin-top: 22px;
}
.list {
  display: grid;
  gap: 8px;
  margin-top: 10px;
}
.list .chip {
  min-height: 52px;
}
@media (max-width: 600px) {
  .still {
    padding: 8px 20px !important;
    font-size: 0.9rem;
  }
  .still .note {
    display: none;
  }
}
.still {
  position: sticky;
  bottom: 0;
  background: var(--card);
  border-top: 1px solid var(--line);
  padding: 12px 20px;
}
</style>
