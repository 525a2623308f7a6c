<script setup lang="ts">
import { useAbsences } from './useCalendar'

/** Absences out of a file of another calendar program: seen first, then kept. */
const absences = useAbsences()
const { found, chosen, problem } = absences
const choose = (event: Event) => absences.read((event.target as HTMLInputElement).files?.[0])
</script>

<template>
  <section>
    <h2>Absences from your calendar</h2>
    <p class="note">
      An iCalendar file, as calendar programs export it. You see what is in it first. Import it again later to
      update what changed.
    </p>
    <input type="file" accept=".ics,text/calendar" aria-label="iCalendar file" @change="choose" />
    <p v-if="problem" role="alert" class="magenta">{{ problem }}</p>
    <p v-else-if="found && !found.length">There are no absences in the coming year in this file.</p>
    <form v-else-if="found" @submit.prevent="absences.keep">
      <ul>
        <li v-for="one in found" :key="one.uid">
          <label>
            <input v-model="chosen" type="checkbox" :value="one.uid" :disabled="one.known" />
            {{ one.words }}<template v-if="one.note">, {{ one.note }}</template>
            <span class="soft">
              <template v-if="one.known"> (already saved)</template>
              <template v-else-if="one.cancelled"> (cancelled there: will be removed here)</template>
              <template v-else-if="one.remark"> ({{ one.remark }})</template>
            </span>
          </label>
        </li>
      </ul>
      <v-btn
        type="submit"
        variant="flat"
        size="small"
        :disabled="!chosen.length"
        :loading="absences.busy.value"
        >Save {{ chosen.length }}</v-btn
      >
    </form>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 10px 0;
}
label {
  display: block;
  padding: 5px 0;
}
</style>
