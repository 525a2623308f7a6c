<script setup lang="ts">
import type { Schemas } from '../../api/client'
import SkipDialog from '../../parts/SkipDialog.vue'
import { useCare } from '../../parts/care'

const props = defineProps<{ sheet: Schemas['Sheet'] }>()
const care = useCare()
const primary: Record<string, string> = {
  plan_change: 'Plan it',
  test: 'Test',
  run: 'Start at the tank',
  record: 'Done',
  see: 'See why',
  look: 'Look',
}

function act(item: Schemas['NextShown']) {
  const id = props.sheet.system_id
  if (item.way === 'plan_change') care.go('change', id)
  else if (item.way === 'test') care.go('bench', id)
  else if (item.way === 'look') care.go('bench', id, '#look')
  else if (item.way === 'see' && item.task) care.go('rota')
  else if (item.way === 'see') document.getElementById('judged-title')?.scrollIntoView()
  else if (item.way === 'run' && item.step_id) void care.start(item.step_id)
  else void care.done(id, item)
}
</script>

<template>
  <aside aria-labelledby="next-title">
    <div class="part-head">
      <h2 id="next-title">Next</h2>
      <span class="soft">{{ sheet.minutes_today }} min today</span>
    </div>
    <p v-if="!sheet.next.length" class="note">Nothing to do now. Come back tomorrow, or look at the Rota.</p>
    <article
      v-for="(item, index) in sheet.next"
      :key="index"
      class="card"
      :class="{ pressing: item.pressing }"
    >
      <div class="top">
        <h3>{{ item.title }}</h3>
        <span class="soft minutes">{{ item.minutes }} min</span>
      </div>
      <p class="soft">{{ item.reason }}</p>
      <div class="ways">
        <v-btn size="small" :variant="index === 0 ? 'flat' : 'outlined'" @click="act(item)">{{
          item.way === 'see' && item.task ? 'See the rota' : primary[item.way]
        }}</v-btn>
        <template v-if="item.task">
          <button
            v-if="item.way !== 'see'"
            class="plain-link"
            type="button"
            @click="care.tomorrow(sheet.system_id, item)"
          >
            not today
          </button>
          <button class="plain-link" type="button" @click="care.askSkip(sheet.system_id, item)">skip</button>
        </template>
      </div>
    </article>
    <SkipDialog :care="care" />
  </aside>
</template>

<style scoped>
article {
  padding: 12px 14px;
  margin-bottom: 10px;
}
article.pressing {
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
