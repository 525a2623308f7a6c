<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import GuardList from './GuardList.vue'

/** One system for a carer: each visit with its work, how it is done, what is watched, and what to do when. */
const props = defineProps<{ one: Schemas['SystemSheet']; today?: string }>()
const ways = computed(() => {
  const all = props.one.visits.flatMap((visit) => visit.work)
  return [...new Map(all.map((work) => [work.key, work])).values()]
})
</script>

<template>
  <section class="card system" :aria-label="one.name">
    <h2>
      {{ one.name }} <span class="soft">{{ one.stock }}, {{ one.volume }}</span>
    </h2>
    <p v-if="one.note" class="note-of">{{ one.note }}</p>
    <div class="two">
      <div>
        <p v-if="!one.visits.length" class="soft">No visit is due.</p>
        <table v-else>
          <caption class="visually-hidden">
            Visits to
            {{
              one.name
            }}
          </caption>
          <tbody>
            <tr v-for="visit in one.visits" :key="visit.day" :class="{ now: visit.day === today }">
              <th scope="row">{{ visit.words }}</th>
              <td>
                <span v-if="!visit.work.length" class="soft">look: is all as it was?</span>
                <span v-for="work in visit.work" :key="work.key" class="work"
                  ><span class="box" aria-hidden="true" />{{ work.name
                  }}<span v-if="work.laid_out" class="soft"> ({{ work.laid_out }})</span></span
                >
              </td>
            </tr>
          </tbody>
        </table>
        <dl v-if="ways.length">
          <template v-for="work in ways" :key="work.key">
            <dt>{{ work.name }}</dt>
            <dd>{{ work.how }}</dd>
          </template>
        </dl>
      </div>
      <div>
        <p v-for="watch in one.watched" :key="watch.key">
          <b>{{ watch.name }}</b> {{ watch.remark }}
        </p>
        <h3>What only this one needs, when something is wrong</h3>
        <GuardList :guards="one.guards" />
      </div>
    </div>
    <slot />
  </section>
</template>

<style scoped>
.system {
  padding: 10px 14px;
  margin-bottom: 14px;
}
h2 .soft {
  font-weight: 400;
}
h3 {
  font-size: 0.95rem;
  margin-top: 6px;
}
.note-of {
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: 1.1fr 1fr;
  gap: 6px 24px;
  font-size: 0.92rem;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  border-bottom: 1px solid var(--line);
  text-align: left;
  padding: 3px 6px 3px 0;
  vertical-align: top;
}
th {
  white-space: nowrap;
  width: 6.5em;
}
.now {
  box-shadow: inset 3px 0 var(--magenta);
}
.now th {
  padding-left: 8px;
}
.work {
  display: inline-block;
  margin-right: 14px;
}
.box {
  display: inline-block;
  width: 0.8em;
  height: 0.8em;
  border: 1.5px solid var(--ink);
  margin-right: 5px;
  vertical-align: -1px;
}
dl {
  margin-top: 8px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0 0 3px;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: 1fr;
  }
}
@media print {
  .system {
    border: 0;
    border-top: 2px solid var(--ink);
    border-radius: 0;
    background: none;
    padding: 6px 0;
    break-inside: avoid;
  }
}
</style>
