<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import CautionList from '../../parts/CautionList.vue'
import NoPlan from '../../parts/NoPlan.vue'
import AimRows from './AimRows.vue'
import { useCorrection } from './useCorrection'

const props = defineProps<{
  system: number
  offer: Schemas['CorrectionOffer']
  additives: Schemas['AdditiveShown'][]
}>()
const correction = useCorrection(props.system, props.offer.body)
const wanted = computed(() => correction.request.aims!.length > 0)
const plan = computed(() => (wanted.value ? correction.result.value : undefined))
const problem = computed(() => correction.problem.value)
</script>

<template>
  <div class="planner">
    <section>
      <AimRows :correction="correction" :aims="offer.aims" :additives="additives" />
      <p class="soft small mt-2">
        Spread a day's doses over
        <select v-model="correction.request.hours" class="inline" aria-label="Hours of the day">
          <option :value="12">12 hours, by hand</option>
          <option :value="24">24 hours, by a pump</option>
        </select>
      </p>
      <p class="small mt-2">
        <label
          ><input v-model="correction.request.adjust" type="checkbox" /> Adjust the daily dose to what is used
          as well</label
        >
      </p>
      <p v-for="words in plan?.daily ?? []" :key="words" class="small">From now on {{ words }}.</p>
      <p v-if="!wanted" class="note my-3">
        Tick what to raise. Nothing that a dose can raise is out of its band, or a plan sees to it already.
      </p>
      <p v-if="problem && !problem.problem.fields.length" class="magenta" role="alert">
        {{ problem.message }}
      </p>
      <ol v-if="plan" class="days" :class="{ stale: problem }" aria-label="The days of the correction">
        <li v-for="day in plan.days" :key="day.day">
          <h2>{{ day.words }}</h2>
          <p v-if="!day.portions.length" class="note">There is a water change today, so no correction.</p>
          <p v-for="(one, index) in day.portions" :key="index" class="dose">
            <span class="soft time">{{ one.time }}</span> <b>{{ one.amount }}</b> {{ one.name }}
            <span class="soft small">{{ one.raises }}{{ one.ph ? `, ${one.ph} at once` : '' }}</span>
          </p>
          <p class="small expected">
            <i class="soft">expected</i> {{ day.expected.join(', ') }}
            <b v-if="day.tests.length"> · test {{ day.tests.join(' and ') }}</b>
          </p>
        </li>
      </ol>
    </section>
    <aside v-if="plan" :class="{ stale: problem }">
      <p class="summary">{{ plan.summary }}</p>
      <v-btn
        block
        variant="flat"
        class="mb-3"
        :disabled="!!problem"
        :loading="correction.busy.value"
        @click="correction.begin()"
        >Add to the rota</v-btn
      >
      <template v-if="plan.gentler.length">
        <h2>What a day's dose all at once would do to pH</h2>
        <p v-for="one in plan.gentler" :key="one.name" :class="{ chosen: one.chosen }">
          <b>{{ one.ph }}</b> {{ one.name }}
          <span v-if="one.chosen" class="small">gentler: {{ one.why }}</span>
        </p>
      </template>
      <p v-if="plan.largest" class="small mt-3">{{ plan.largest }}</p>
      <p v-if="plan.side" class="soft small mt-3">{{ plan.side }}</p>
      <p class="soft small mt-2">
        If a test is off by more than test error, stop. The doses wait until you plan again.
      </p>
      <CautionList :cautions="plan.cautions" />
    </aside>
    <NoPlan v-else-if="problem" />
  </div>
</template>

<style scoped>
.days {
  list-style: none;
  margin-top: 14px;
  border-left: 3px solid var(--deep);
}
.days li {
  padding: 0 0 12px 16px;
  position: relative;
}
.days li::before {
  content: '';
  position: absolute;
  left: -7px;
  top: 6px;
  width: 11px;
  height: 11px;
  border-radius: 50%;
  background: var(--card);
  border: 2px solid var(--ink);
}
.time {
  display: inline-block;
  width: 4.2em;
}
.small {
  font-size: 0.9rem;
}
.summary {
  font-size: 1.1rem;
  font-weight: 600;
  margin-bottom: 12px;
}
.chosen {
  border-left: 3px solid var(--ink);
  padding-left: 8px;
}
.stale {
  opacity: 0.55;
}
</style>
