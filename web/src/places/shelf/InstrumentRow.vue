<script setup lang="ts">
import { ref } from 'vue'
import FieldText from '../../parts/FieldText.vue'
import type { Schemas } from '../../api/client'
import type { Instrument, useInstruments } from './useInstruments'
import DateField from '../../parts/DateField.vue'

/** One instrument: what its checks do to a reading, and a new check against a standard. */
const props = defineProps<{ one: Instrument; acts: ReturnType<typeof useInstruments> }>()
const place = `${props.one.name}-${props.one.parameter}`
const open = ref(false)
const standard = ref('')
const reading = ref('')
const until = ref('')
const lot = ref('')
const named = {
  name: props.one.name,
  parameter: props.one.parameter as Schemas['CheckBody']['parameter'],
}
async function opened() {
  if (await props.acts.reagent(place, { ...named, expires_on: until.value, lot: lot.value }))
    until.value = lot.value = ''
}
async function check() {
  const body = { ...named, standard: standard.value, reading: reading.value }
  if (await props.acts.check(place, body)) standard.value = reading.value = ''
}
</script>

<template>
  <li>
    <div class="line">
      <b>{{ one.name }}</b>
      <span>{{ one.parameter_name }}</span>
      <span class="soft">{{ one.scatter }}</span>
      <span class="soft">{{ one.counts }}</span>
      <span
        ><span :class="{ soft: !one.checks.length }">{{ one.line }}</span>
        <span v-if="one.reagent" :class="one.expired ? 'magenta' : 'soft'"> · {{ one.reagent }}</span></span
      >
      <button class="plain-link" type="button" :aria-expanded="open" @click="open = !open">checks</button>
    </div>
    <p v-if="one.seen || one.check" class="seen soft">
      <span v-if="one.seen">{{ one.seen }}</span>
      <span :class="{ magenta: one.check_due }">{{ one.check }}</span>
    </p>
    <div v-if="open" class="more">
      <ul v-if="one.checks.length">
        <li v-for="kept in one.checks" :key="kept.id">
          {{ kept.day }}: {{ kept.standard }} read as {{ kept.reading }}
          <button class="plain-link" type="button" @click="acts.voidCheck(place, kept.id)">undo</button>
        </li>
      </ul>
      <form novalidate @submit.prevent="check">
        <FieldText
          v-model="standard"
          :label="`Standard`"
          :unit="one.unit"
          :error="acts.wrong(place, 'standard')"
        />
        <FieldText
          v-model="reading"
          :label="`It read`"
          :unit="one.unit"
          :error="acts.wrong(place, 'reading')"
        />
        <v-btn type="submit" variant="flat" size="small">Save the check</v-btn>
        <button class="plain-link away" type="button" @click="acts.away(place, one)">remove</button>
      </form>
      <form novalidate @submit.prevent="opened">
        <DateField
          v-model="until"
          ahead
          label="New reagent, good until"
          :error="acts.wrong(place, 'expires_on')"
        />
        <FieldText v-model="lot" label="Lot, if printed" type="text" />
        <v-btn type="submit" variant="outlined" size="small">Save the reagent</v-btn>
      </form>
      <p class="note">
        The latest check of each standard counts: one gives an offset, two give offset and slope. Check with
        seawater of known salinity, not with pure water alone.
      </p>
    </div>
  </li>
</template>

<style scoped>
li {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
.line {
  display: grid;
  grid-template-columns: 210px 110px 100px 130px minmax(0, 1fr) 60px;
  gap: 4px 14px;
  align-items: baseline;
}
.seen {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  font-size: 0.9rem;
}
.more {
  padding: 8px 0 4px 20px;
  display: grid;
  gap: 10px;
}
.more ul {
  list-style: none;
  padding: 0;
  font-size: 0.9rem;
}
.more li {
  border: 0;
  padding: 2px 0;
  display: flex;
  gap: 14px;
}
form {
  display: flex;
  gap: 12px;
  align-items: flex-start;
  flex-wrap: wrap;
}
form > * {
  flex: 0 1 190px;
}
form .v-btn,
.away {
  flex: 0 0 auto;
  margin-top: 8px;
}
@media (max-width: 900px) {
  .line {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
