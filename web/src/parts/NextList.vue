<script setup lang="ts">
import type { Schemas } from '../api/client'
import CareDialogs from './CareDialogs.vue'
import ChemText from './ChemText.vue'
import { useCare } from './care'

type Item = Schemas['NextShown'] & { system_id?: number; system?: string }
/** What to do now, in order, on one system or over all: each with its reason, its minutes and the ways out. */
const props = defineProps<{ items: Item[]; system?: number; head: string; side: string; empty: string }>()
const care = useCare()
const primary: Record<string, string> = {
  plan_change: 'Plan it',
  test: 'Test',
  run: 'Start at the tank',
  record: 'Done',
  see: 'See why',
  look: 'Look',
  mix: 'Mix it',
  container: 'See the container',
  correction: 'Plan the doses',
  remedy: 'See the plan',
  emergency: 'Go on with it',
  alarm: 'See the alarm',
  programme: 'Open it',
  dosing: 'See the dose',
  complete: 'Enter the litres',
}
const of = (item: Item) => item.system_id ?? props.system!

function act(item: Item) {
  const id = of(item)
  if (item.way === 'plan_change') care.go('change', id)
  else if (item.way === 'test') care.go('bench', id)
  else if (item.way === 'mix') care.go('mix')
  else if (item.way === 'container') care.go('containers', id)
  else if (item.way === 'correction') care.go('correction', id)
  else if (item.way === 'remedy') care.plan(id, item.cause)
  else if (item.way === 'emergency') care.emergency(id, item.cause)
  else if (item.way === 'alarm') care.go('alarms')
  else if (item.way === 'programme') care.programme(id, item.cause)
  else if (item.way === 'dosing') care.go('dosing', id)
  else if (item.way === 'complete') care.askChange({ system: id, complete: true })
  else if (item.way === 'look') care.go('bench', id, '#look')
  else if (item.way === 'see' && item.task) care.go('rota')
  else if (item.way === 'see' && item.system_id) care.go('sheet', id)
  else if (item.way === 'see') document.getElementById('judged-title')?.scrollIntoView()
  else if (item.way === 'run' && item.step_id) void care.start(item.step_id)
  else void care.done(id, item)
}
</script>

<template>
  <aside aria-labelledby="next-title">
    <div class="part-head">
      <h2 id="next-title">{{ head }}</h2>
      <span class="soft">{{ side }}</span>
    </div>
    <p v-if="!items.length" class="note">{{ empty }}</p>
    <div class="list">
      <article v-for="(item, index) in items" :key="index" class="card" :class="{ urgent: item.urgent }">
        <div class="top">
          <h3>
            <span v-if="item.system" class="soft">{{ item.system }}: </span>{{ item.title }}
          </h3>
          <span class="soft minutes">{{ item.minutes }} min</span>
        </div>
        <p class="soft"><ChemText :text="item.reason" /></p>
        <div class="ways">
          <v-btn size="small" :variant="index === 0 ? 'flat' : 'outlined'" @click="act(item)">{{
            item.way === 'see' && item.task ? 'See the rota' : primary[item.way]
          }}</v-btn>
          <template v-if="item.task">
            <button
              v-if="!['see', 'container'].includes(item.way) && item.task !== 'daily_dose'"
              class="plain-link"
              type="button"
              @click="care.tomorrow(of(item), item)"
            >
              not today
            </button>
            <button
              v-if="item.way !== 'container'"
              class="plain-link"
              type="button"
              @click="care.askSkip(of(item), item)"
            >
              skip
            </button>
          </template>
        </div>
      </article>
    </div>
    <CareDialogs :care="care" />
  </aside>
</template>

<style scoped>
article {
  padding: 12px 14px;
  margin-bottom: 10px;
}
article.urgent {
  border-left: 4px solid var(--magenta);
}
h3 {
  font-size: 1rem;
  font-weight: 700;
  line-height: 1.25;
}
p {
  font-size: 0.9rem;
  margin: 4px 0 8px;
}
.ways {
  display: flex;
  align-items: center;
  gap: 14px;
}
.ways .plain-link {
  white-space: nowrap;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
.minutes {
  font-size: 0.85rem;
  white-space: nowrap;
}
</style>
