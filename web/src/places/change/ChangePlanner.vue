<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import BillList from '../../parts/BillList.vue'
import CautionNote from '../../parts/CautionNote.vue'
import DraftNote from '../../parts/DraftNote.vue'
import FoldSection from '../../parts/FoldSection.vue'
import NoPlan from '../../parts/NoPlan.vue'
import BeforeAfter from './BeforeAfter.vue'
import RoutinePair from './RoutinePair.vue'
import ServiceForm from './ServiceForm.vue'
import SizeTube from './SizeTube.vue'
import TankWords from './TankWords.vue'
import RequestSentence from './RequestSentence.vue'
import { useChange, type ChangeRequest } from './useChange'
import TermWord from '../../parts/TermWord.vue'

const props = defineProps<{ offer: Schemas['Offer']; first: ChangeRequest }>()
const change = useChange(props.offer, props.first)
const { request } = change
const folds = ref<Record<string, boolean>>({})
const problem = computed(() => change.problem.value ?? change.refused.value)
const litres = computed(() => change.step.value?.figures.find((figure) => figure.key === 'volume')?.value)
const figures = computed(() => [
  ...(change.step.value?.figures ?? []),
  ...(change.step.value?.tank ?? []),
  ...(change.result.value?.slow ?? []),
])
const kit = computed(() => ({
  name: 'kit',
  params: { system: props.offer.system_id },
  query: { day: request.start },
}))
</script>

<template>
  <div class="planner">
    <section>
      <div class="part-head">
        <h1>Water change, {{ offer.name }}</h1>
        <span class="soft"
          >{{ offer.volume.text }} {{ offer.volume.unit }} <TermWord word="net">net</TermWord></span
        >
      </div>
      <DraftNote :draft="change.draft" />
      <RequestSentence :offer="offer" :request="request" :wrong="change.wrong" />
      <template v-if="request.purpose === 'routine'">
        <p v-for="words in offer.held" :key="words" class="soft held">{{ words }}</p>
      </template>
      <p v-if="problem && !problem.problem.fields.length" class="magenta problem" role="alert">
        {{ problem.message }}
      </p>
      <SizeTube v-model="request.fraction_percent" :largest="offer.largest_percent" :litres="litres" />
      <template v-if="change.result.value && change.step.value">
        <p class="summary">{{ change.result.value.summary }}</p>
        <div
          v-if="change.result.value.steps.length > 1"
          class="steps"
          role="group"
          aria-label="Steps of the plan"
        >
          <button
            v-for="(step, index) in change.result.value.steps"
            :key="index"
            type="button"
            :aria-pressed="index === change.number.value"
            @click="change.number.value = index"
          >
            <b>{{ step.day_words }}</b>
            {{
              step.kind === 'change'
                ? `change ${step.figures[0]?.value.text} ${step.figures[0]?.value.unit}`
                : 'dose only'
            }}
          </button>
        </div>
        <BeforeAfter :step="change.step.value" />
      </template>
      <div v-else-if="!problem" class="reserve tall" />
      <TankWords :offer="offer" :request="request" :wrong="change.wrong" class="mt-4" />
      <div class="folds">
        <FoldSection
          title="Hoses and pumps"
          line="for minutes, the mark and what drains back"
          :open="!!folds.service"
          last
          @toggle="folds.service = !folds.service"
        >
          <ServiceForm :system="offer.system_id" :service="offer.service" @kept="change.again()" />
        </FoldSection>
        <FoldSection
          title="Two routines compared"
          line="little and often, or more and seldom"
          :open="!!folds.routines"
          last
          @toggle="folds.routines = !folds.routines"
        >
          <RoutinePair :offer="offer" :percent="first.fraction_percent" />
        </FoldSection>
      </div>
    </section>
    <aside v-if="change.result.value && change.step.value" :class="{ stale: problem }">
      <BillList :figures="figures" />
      <p v-for="warning in change.step.value.warnings" :key="warning" class="magenta" role="alert">
        {{ warning }}
      </p>
      <div v-if="change.step.value.kind === 'change' && change.result.value.off.length" class="off">
        <h2>Off before you drain</h2>
        <p v-for="item in change.result.value.off" :key="item.kind">
          <b>{{ item.name }}</b> <span class="soft">{{ item.why }}</span>
        </p>
      </div>
      <label v-if="offer.planned.length" class="replace">
        <input v-model="change.replace.value" type="checkbox" /> replaces what is planned:
        {{ offer.planned.join('; ') }}
      </label>
      <div class="ways no-print">
        <v-btn
          variant="flat"
          :disabled="!!problem || !!request.slow_days"
          :loading="change.busy.value"
          @click="change.putOnRota()"
          >Add to the rota</v-btn
        >
        <v-btn
          :disabled="!!problem || !!request.slow_days || request.start !== offer.today"
          :loading="change.busy.value"
          @click="change.startNow()"
          >Start at the tank</v-btn
        >
      </div>
      <p v-if="request.slow_days" class="note">
        A pump pair runs by itself: set both pumps, and note what they moved in quick entry, such as “change 4
        l”. Plan it as a routine in What-if.
      </p>
      <p class="no-print"><router-link :to="kit">Kit list for this visit</router-link></p>
      <CautionNote
        v-for="caution in change.result.value.cautions"
        :key="caution.key"
        :caution="caution"
        class="mt-3"
      />
    </aside>
    <NoPlan v-else-if="problem" />
  </div>
</template>

<style scoped>
.problem {
  margin: 8px 0;
}
.summary {
  margin: 4px 0 8px;
  font-weight: 600;
}
.steps {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 10px;
}
.steps button {
  border: 1px solid var(--line);
  border-bottom-width: 3px;
  border-radius: 4px;
  background: var(--card);
  padding: 4px 10px;
  color: var(--ink);
}
.steps button[aria-pressed='true'] {
  border-bottom-color: var(--ink);
}
.stale {
  opacity: 0.55;
}
.folds {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
.off {
  margin: 14px 0;
}
.off p {
  font-size: 0.9rem;
}
.replace {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 0.9rem;
  margin-top: 12px;
}
.replace input {
  accent-color: var(--ink);
}
.ways {
  display: flex;
  gap: 10px;
  margin: 14px 0 10px;
}
.ways > * {
  flex: 1;
}
.held {
  font-size: 0.88rem;
}
</style>
