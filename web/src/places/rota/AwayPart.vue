<script setup lang="ts">
import { reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { useTime } from './useTime'
import DateField from '../../parts/DateField.vue'

/** When nobody is there: what can wait is done before or after, what cannot is for the carer. */
const props = defineProps<{ minutes: Schemas['Minutes'] }>()
const time = useTime(() => props.minutes)
const away = reactive({ first: '', last: '', note: '' })

async function keep() {
  if (await time.goAway({ ...away })) Object.assign(away, { first: '', last: '', note: '' })
}
</script>

<template>
  <section>
    <h2>Away</h2>
    <p v-if="!minutes.away.length" class="note">
      No absences planned. While you are away only what cannot wait is due.
    </p>
    <ul class="days">
      <li v-for="one in minutes.away" :key="one.id">
        {{ one.words }}<template v-if="one.note">, {{ one.note }}</template>
        <span v-if="one.imported" class="soft">(from your calendar)</span>
        <span class="ways">
          <router-link :to="{ name: 'hand-over', params: { away: one.id } }"
            >hand over to a carer</router-link
          >
          <button class="plain-link" type="button" @click="time.stay(one.id)">Remove</button>
        </span>
      </li>
    </ul>
    <form class="away" @submit.prevent="keep">
      <DateField v-model="away.first" ahead label="First day" required :error="time.wrong('first')" />
      <DateField v-model="away.last" ahead label="Last day" required :error="time.wrong('last')" />
      <v-text-field v-model="away.note" label="Note" class="wide" maxlength="80" />
      <v-btn type="submit" variant="flat" :loading="time.busy.value">Add absence</v-btn>
    </form>
  </section>
</template>

<style scoped>
.away {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 14px;
  margin-top: 10px;
}
.wide {
  grid-column: 1 / -1;
}
.days {
  list-style: none;
}
.ways {
  display: inline-flex;
  gap: 14px;
  margin-left: 10px;
}
</style>
