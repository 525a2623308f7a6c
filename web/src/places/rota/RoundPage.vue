<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { nextTick, ref } from 'vue'
import { useRoute } from 'vue-router'
import { roundQuery } from '../../api/queries'
import { useCare } from '../../parts/care'
import { useKeys } from '../../parts/keys'
import BrokenSystems from '../../parts/BrokenSystems.vue'
import CareDialogs from '../../parts/CareDialogs.vue'
import Waiting from '../../parts/Waiting.vue'
import RotaHead from './RotaHead.vue'
import RoundSystem from './RoundSystem.vue'
import { useRound } from './useRound'
import DateField from '../../parts/DateField.vue'
import WhenField from '../../parts/WhenField.vue'

const asked = useRoute().query.day
const day = ref(typeof asked === 'string' ? asked : '')
const { data, error, refetch } = useQuery(() => roundQuery(day.value))
const care = useCare()
const round = useRound(data)
const print = () => window.print()
/** All as planned: one key ticks it, the next saves it. */
async function tickAll() {
  round.tickAll()
  await nextTick()
  document.getElementById('finish-round')?.focus()
}
useKeys({ t: () => void tickAll() })
/** At the tank the work comes first; the kit was packed before. */
const wide = window.matchMedia('(min-width: 700px)').matches
</script>

<template>
  <div class="page">
    <RotaHead side="a day's work as one list" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="head">
        <h2>{{ data.day === data.today ? 'Today' : data.words }}</h2>
        <span class="soft">{{ data.minutes }} of your {{ data.room }} minutes</span>
        <span class="no-print tools">
          <DateField :model-value="data.day" inline ahead label="Day of the round" @day="day = $event" />
          <button v-if="round.open.value.length" class="plain-link" type="button" title="t" @click="tickAll">
            Tick all
          </button>
          <button class="plain-link" type="button" @click="print">Print</button>
        </span>
      </div>
      <BrokenSystems :systems="data.broken" />
      <p v-if="!data.systems.length">
        Nothing is due on this day. <router-link :to="{ name: 'rota' }">See the weeks</router-link>
      </p>
      <template v-else>
        <details class="pack" :open="wide">
          <summary>To bring: {{ data.kit.length }} things</summary>
          <ul class="kit">
            <li v-for="item in data.kit" :key="item.key">
              <b>{{ item.name }}</b> <span class="soft">{{ item.remark }}</span>
            </li>
          </ul>
        </details>
        <RoundSystem
          v-for="one in data.systems"
          :key="one.system_id"
          :one="one"
          :round="round"
          :care="care"
        />
        <CareDialogs :care="care" />
        <form class="finish no-print" @submit.prevent="round.finish">
          <v-text-field
            v-model="round.minutes.value"
            label="It took in all"
            suffix="min"
            inputmode="decimal"
            density="compact"
            :error-messages="round.wrong('minutes')"
          />
          <WhenField v-model="round.when.value" class="when" :error="round.wrong('when')" />
          <v-btn
            id="finish-round"
            type="submit"
            variant="flat"
            size="large"
            :disabled="!round.done.value.length"
            :loading="round.busy.value"
            >Finish: {{ round.done.value.length }} of {{ round.open.value.length }} done</v-btn
          >
        </form>
      </template>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  margin-bottom: 8px;
}
.tools {
  display: flex;
  gap: 14px;
  margin-left: auto;
}
.pack summary {
  font-weight: 700;
  padding: 4px 0;
}
.kit {
  list-style: none;
  columns: 2 260px;
}
.kit li {
  break-inside: avoid;
  padding: 2px 0;
}
.finish {
  display: grid;
  grid-template-columns: 160px auto 1fr;
  gap: 12px;
  align-items: start;
  position: sticky;
  bottom: 0;
  background: var(--paper);
  padding: 10px 0;
  border-top: 1px solid var(--line);
}
@media (max-width: 900px) {
  .finish {
    grid-template-columns: 130px 1fr;
    bottom: 50px;
  }
  .finish > .when {
    grid-row: 1;
    grid-column: 1 / -1;
  }
}
</style>
