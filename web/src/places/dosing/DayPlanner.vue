<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { typed } from '../../parts/numbers'
import DayChart from './DayChart.vue'
import { useDay } from './useDay'

const props = defineProps<{ system: number; offer: Schemas['DayOffer'] }>()
const day = useDay(props.system, props.offer.body)
const found = computed(() => day.result.value)
const problem = computed(() => day.problem.value)
const shown = ref(['measured', 'now', 'best'])
const curves = computed(() => (found.value ? [found.value.measured, ...found.value.curves] : []))
const LINES: Record<string, string> = {
  measured: 'broad',
  now: 'thin',
  even: 'dotted',
  best: 'bold',
  outdoors: 'dashed',
}
function ppm(text: string) {
  day.request.ppm = text.trim() ? typed(text) : null
}
</script>

<template>
  <div class="planner">
    <section>
      <p v-if="problem && !problem.problem.fields.length" class="magenta" role="alert">
        {{ problem.message }}
      </p>
      <DayChart
        v-if="found"
        :answer="found"
        :lights="offer.lights"
        :shown="shown"
        :class="{ stale: problem }"
      />
      <p v-else-if="!problem" class="note my-4 reserve tall" role="status">
        Working out the daily rhythm from the probe…
      </p>
      <table v-if="found" class="values">
        <caption class="visually-hidden">
          The curves
        </caption>
        <thead>
          <tr>
            <th scope="col">pH (NBS)</th>
            <th scope="col" class="number">lowest</th>
            <th scope="col" class="number">highest</th>
            <th scope="col" class="number">swing</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="curve in curves" :key="curve.key" :class="{ best: curve.key === 'best' }">
            <th scope="row">
              <label
                ><input v-model="shown" type="checkbox" :value="curve.key" /> {{ curve.name }}
                <span class="soft small">{{ LINES[curve.key] }} line</span></label
              >
            </th>
            <td class="number">{{ curve.lowest }}</td>
            <td class="number">{{ curve.highest }}</td>
            <td class="number">
              <b>{{ curve.swing }}</b>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-for="line in found?.words" :key="line" class="small soft mt-2">{{ line }}</p>
    </section>
    <aside>
      <p v-if="found" class="gain">{{ found.gain }}</p>
      <fieldset class="ticks my-2">
        <legend class="soft small">Spread over</legend>
        <label v-for="one in offer.containers" :key="one.key">
          <input v-model="day.request.container_ids" type="checkbox" :value="Number(one.key)" />
          {{ one.name }} <span class="soft small">{{ one.remark }}</span>
        </label>
      </fieldset>
      <p v-if="day.wrong('container_ids')" class="magenta small" role="alert">
        {{ day.wrong('container_ids') }}
      </p>
      <p v-if="offer.by_hand" class="my-2">
        Dosed by hand now at
        <select v-model.number="day.request.hour" class="inline" aria-label="Hour of the dose by hand">
          <option v-for="hour in 24" :key="hour" :value="hour - 1">{{ hour - 1 }} h</option>
        </select>
      </p>
      <label class="room"
        >Carbon dioxide of the room
        <input
          :value="day.request.ppm ?? ''"
          inputmode="decimal"
          placeholder="not measured"
          :aria-invalid="!!day.wrong('ppm')"
          @input="ppm(($event.target as HTMLInputElement).value)"
        />
        ppm</label
      >
      <p v-if="day.wrong('ppm')" class="magenta small" role="alert">{{ day.wrong('ppm') }}</p>
      <template v-if="found">
        <table class="values small mt-3">
          <caption class="visually-hidden">
            Flattest pH
          </caption>
          <thead>
            <tr>
              <th scope="col">Dose at</th>
              <th v-for="column in found.columns" :key="column" scope="col" class="number">{{ column }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="dose in found.doses" :key="dose.time">
              <th scope="row">{{ dose.time }}</th>
              <td v-for="(amount, place) in dose.amounts" :key="place" class="number">{{ amount }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="found.apart" class="small mt-2">{{ found.apart }}</p>
        <p v-if="offer.by_hand" class="note mt-2">
          Without a pump, dose by hand as close to these hours as you can.
        </p>
        <v-btn
          v-else
          block
          variant="flat"
          class="mt-3"
          :disabled="!!problem"
          :loading="day.keeping.value"
          @click="day.adopt()"
          >Apply to the pumps</v-btn
        >
      </template>
    </aside>
  </div>
</template>

<style scoped>
.gain {
  font-size: 1.1rem;
  font-weight: 600;
}
.small {
  font-size: 0.9rem;
}
.best {
  background: var(--shallow);
}
label input {
  accent-color: var(--ink);
}
.room input {
  width: 7em;
  border: 0;
  border-bottom: 2px dotted var(--ink);
  color: var(--ink);
  font-weight: 600;
}
.room input[aria-invalid='true'] {
  border-color: var(--magenta);
  color: var(--magenta);
}
.stale {
  opacity: 0.55;
}
</style>
