<script setup lang="ts">
import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'
import { BASE } from '../../parts/example'

/** What the carer reported: taken into the record, or dismissed. */
defineProps<{ reports: Schemas['ReportShown'][] }>()
const commands = useCommands()
const take = (number: number) =>
  commands.run(() =>
    command((header) =>
      api.POST('/api/rota/reports/{number}/accept', { params: { path: { number }, header } }),
    ),
  )
const dismiss = (number: number) =>
  command((header) =>
    api.POST('/api/rota/reports/{number}/dismiss', { params: { path: { number }, header } }),
  )
const restore = (number: number) =>
  command((header) =>
    api.POST('/api/rota/reports/{number}/restore', { params: { path: { number }, header } }),
  )
const aside = (number: number, back: boolean) =>
  commands.runWith(
    () => (back ? restore(number) : dismiss(number)),
    () => (back ? dismiss(number) : restore(number)),
  )
</script>

<template>
  <section>
    <h2>Reports</h2>
    <article v-for="one in reports" :key="one.id" class="card report" :class="{ aside: one.aside }">
      <h3>{{ one.system }}, {{ one.words }}</h3>
      <dl>
        <template v-if="one.done.length">
          <dt>Done</dt>
          <dd>{{ one.done.join(' · ') }}</dd>
        </template>
        <template v-if="one.measured.length">
          <dt>Readings</dt>
          <dd>{{ one.measured.join(' · ') }}</dd>
        </template>
        <template
          v-for="[name, text] in [
            ['Found', one.found],
            ['Used up', one.used],
            ['Advised', one.advised],
          ]"
          :key="name"
        >
          <dt v-if="text">{{ name }}</dt>
          <dd v-if="text">{{ text }}</dd>
        </template>
      </dl>
      <div v-if="one.pictures.length" class="pictures">
        <img v-for="url in one.pictures" :key="url" :src="BASE + url" alt="Picture of the visit" />
      </div>
      <p class="ways">
        <span v-if="one.taken" class="soft">in the record</span>
        <template v-else-if="one.aside">
          <span class="soft">dismissed</span>
          <button class="plain-link" type="button" @click="aside(one.id, true)">ask again</button>
        </template>
        <template v-else>
          <v-btn variant="flat" size="small" :loading="commands.busy.value" @click="take(one.id)"
            >Add to the record</v-btn
          >
          <button class="plain-link" type="button" @click="aside(one.id, false)">dismiss</button>
        </template>
      </p>
    </article>
  </section>
</template>

<style scoped>
.report {
  padding: 10px 14px;
  margin: 8px 0;
}
.report.aside {
  opacity: 0.75;
}
h3 {
  font-size: 1rem;
}
dl {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 2px 12px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.pictures img {
  height: 90px;
  margin: 6px 8px 0 0;
}
.ways {
  display: flex;
  gap: 16px;
  align-items: baseline;
  margin-top: 6px;
}
</style>
