<script setup lang="ts">
import { fieldText, unitRead } from '../../parts/measures'
import type { Schemas } from '../../api/client'
import type { Care } from '../../parts/care'
import { byRunbook, isTick, type RoundTask, type useRound } from './useRound'

/** The round of one system: what goes off first, then its work in order, each to tick or to go through step by step. */
const props = defineProps<{ one: Schemas['SystemRound']; round: ReturnType<typeof useRound>; care: Care }>()
const clock = (task: RoundTask) => `${task.starts}–${task.starts + task.minutes}`
/** A water change is ticked with the water that it moved. */
function tick(task: RoundTask, event: Event) {
  const box = event.target as HTMLInputElement
  const system = props.one.system_id
  if (!box.checked || task.task !== 'water_change') return props.round.tick(system, task, box.checked)
  box.checked = false
  props.care.askChange({ system, item: task, take: (water) => props.round.tick(system, task, true, water) })
}
const litres = (task: RoundTask) => props.round.changedOf(props.one.system_id, task)?.litres
</script>

<template>
  <section class="system" :aria-label="one.name">
    <h2>
      {{ one.name }}
      <span class="soft"
        >{{ one.minutes }} min<template v-if="one.elapsed > one.minutes"
          >, the last soak is over after {{ one.elapsed }} min</template
        ></span
      >
    </h2>
    <p v-if="one.off.length" class="off">
      <b>Off first:</b>
      <template v-for="(gear, index) in one.off" :key="gear.key"
        >{{ index ? ', ' : ' ' }}{{ gear.name }}</template
      >. <b>On again:</b> {{ one.on }}.
    </p>
    <ol>
      <li v-for="task in one.tasks" :key="task.task + task.due + task.step_id">
        <label class="tick">
          <input
            v-if="isTick(task)"
            type="checkbox"
            :checked="round.isTicked(one.system_id, task)"
            @change="tick(task, $event)"
          />
          <span v-else class="dot" aria-hidden="true" />
          <span>
            {{ task.name }}<template v-if="task.zone">, {{ task.zone }}</template>
            <i v-if="task.late_days" class="magenta"> {{ task.late_days }} d late</i>
            <span class="soft small">
              minute {{ clock(task)
              }}<template v-if="task.waits">, then {{ task.waits }} min left alone</template
              ><template v-if="task.beside">; {{ task.beside }}</template>
              <template v-if="task.tool"> · {{ task.tool }}</template>
              <template v-if="task.note"> · {{ task.note }}</template>
              <template v-if="round.isTicked(one.system_id, task) && litres(task)">
                · {{ fieldText(litres(task), 'L') }} {{ unitRead('L') }} changed</template
              >
            </span>
          </span>
        </label>
        <v-btn v-if="byRunbook(task)" size="small" class="no-print" @click="care.start(task.step_id!)"
          >Start at the tank</v-btn
        >
        <v-btn
          v-else-if="task.programme"
          size="small"
          class="no-print"
          @click="care.programme(one.system_id, task.programme)"
          >Open it</v-btn
        >
        <v-btn v-else-if="task.told" size="small" class="no-print" @click="care.go('rota')"
          >Say what was found</v-btn
        >
        <v-btn
          v-else-if="task.runbook"
          size="small"
          class="no-print"
          @click="care.start({ system_id: one.system_id, runbook: task.runbook, task: task.task })"
          >Step by step</v-btn
        >
      </li>
    </ol>
    <details v-if="one.cautions.length">
      <summary class="magenta">Cautions: {{ one.cautions.map((each) => each.name).join('; ') }}</summary>
      <p v-for="each in one.cautions" :key="each.key" class="small">
        <b>{{ each.name }}.</b> {{ each.remark }}
      </p>
    </details>
  </section>
</template>

<style scoped>
.system {
  border-top: 2px solid var(--ink);
  padding: 10px 0 14px;
  margin-top: 12px;
}
h2 span {
  font-weight: 400;
  font-size: 0.95rem;
  margin-left: 8px;
}
.off {
  margin: 4px 0 6px;
}
ol {
  list-style: none;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  border-top: 1px solid var(--line);
  min-height: 52px;
}
.tick {
  display: flex;
  gap: 14px;
  align-items: center;
  flex: 1;
  padding: 6px 0;
  cursor: pointer;
}
.tick input {
  width: 26px;
  height: 26px;
  flex: none;
}
.dot {
  width: 26px;
  flex: none;
}
.small {
  display: block;
  font-size: 0.86rem;
}
details {
  margin-top: 8px;
}
@media print {
  details > p {
    display: block;
  }
}
</style>
