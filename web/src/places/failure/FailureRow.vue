<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'

/** One thing that can fail: what happens here; opened, its numbers, what to do, and when it was rehearsed. */
defineProps<{ one: Schemas['FailureShown']; system: number; quiet?: boolean }>()
const open = ref(false)
const working = ref('')
</script>

<template>
  <li class="row" :class="{ quiet, grave: !quiet && one.open > 2 }">
    <button type="button" class="top" :aria-expanded="open" @click="open = !open">
      <span class="name">
        <b>{{ one.name }}</b>
        <span v-if="one.subject" class="soft">{{ one.subject }}</span>
      </span>
      <span class="when">{{ one.harm_name }}{{ one.begins ? ', ' + one.begins : '' }}</span>
      <span class="marks" aria-hidden="true">
        <span v-for="n in 3" :key="n" :class="{ on: n <= one.harm }" />
      </span>
    </button>
    <p v-if="one.words">{{ one.words }}</p>
    <p v-else class="soft">Needs {{ one.missing.join(' and ') }}.</p>
    <p v-if="one.stopped.length || one.warned.length" class="guards">
      <span v-if="one.stopped.length">Stopped by {{ one.stopped.join(', ') }}. </span>
      <span v-if="one.warned.length">Noticed by {{ one.warned.join(', ') }}.</span>
    </p>
    <div v-if="open" class="more">
      <p class="soft">{{ one.about }} {{ one.harm_words }}.</p>
      <p v-if="one.do"><b>Today:</b> {{ one.do }}</p>
      <p v-if="one.absent.length" class="soft">Would help: {{ one.absent.join(', ') }}.</p>
      <dl v-if="one.effects.length">
        <div v-for="each in one.effects" :key="each.key">
          <dt>{{ each.name }}</dt>
          <dd>
            <button
              v-if="each.working.length"
              type="button"
              class="number-link"
              :aria-expanded="working === each.key"
              @click="working = working === each.key ? '' : each.key"
            >
              {{ each.text }}
            </button>
            <template v-else>{{ each.text }}</template>
          </dd>
        </div>
      </dl>
      <template v-for="each in one.effects" :key="each.key">
        <Working v-if="working === each.key" :steps="each.working" />
      </template>
      <p class="links">
        <router-link v-if="one.drill" :to="{ name: 'task', params: { system, task: one.drill } }"
          >{{ one.drill_name }}: {{ one.rehearsed || 'never recorded' }}</router-link
        >
        <router-link v-if="one.sheet" :to="{ name: 'emergency-sheet', params: { system, sheet: one.sheet } }"
          >When it happens</router-link
        >
      </p>
    </div>
  </li>
</template>

<style scoped>
.row {
  padding: 10px 14px 10px 16px;
  border: 1px solid var(--line);
  border-left: 4px solid var(--deep);
  border-radius: 6px;
  background: var(--card);
  margin-bottom: 8px;
}
.grave {
  border-left-color: var(--magenta);
}
.quiet {
  border-left-color: var(--line);
}
.top {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 14px;
  align-items: baseline;
  width: 100%;
  min-height: 32px;
  padding: 0;
  text-align: left;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.top:hover .name b {
  text-decoration: underline;
}
.name b {
  font-size: 1.06rem;
  margin-right: 8px;
}
.when {
  white-space: nowrap;
}
.marks {
  display: inline-flex;
  gap: 3px;
}
.marks span {
  width: 9px;
  height: 9px;
  border: 1.5px solid var(--ink);
  border-radius: 50%;
}
.marks .on {
  background: var(--ink);
}
.row > p {
  margin: 2px 0;
}
.guards {
  color: var(--soft);
}
.more {
  margin-top: 8px;
  padding-top: 8px;
  border-top: 1px solid var(--line);
}
.more > p {
  margin: 3px 0;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 26px;
  margin: 8px 0;
}
dt {
  color: var(--soft);
  font-size: 0.9rem;
}
dd {
  margin: 0;
  font-weight: 600;
}

.number-link {
  padding: 0;
  font: inherit;
  color: inherit;
  text-decoration: underline dotted;
  cursor: pointer;
  min-height: 26px;
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 20px;
}
</style>
