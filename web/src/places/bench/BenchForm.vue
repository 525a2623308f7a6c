<script setup lang="ts">
import { nextTick, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import { clockWords } from '../../parts/wall'
import WhenField from '../../parts/WhenField.vue'
import VisualCheck from '../inspection/VisualCheck.vue'
import BenchRow from './BenchRow.vue'
import { useBench } from './useBench'

const props = defineProps<{ bench: Schemas['Bench']; look?: boolean }>()
const session = useBench(props.bench)
const router = useRouter()
const form = ref<HTMLFormElement>()

const more = ref(false)
const isShown = (row: Schemas['BenchRow'], index: number) =>
  more.value || row.usual || !!session.drafts[index]?.text
/* Hidden rows take no part in going from row to row. */
const fields = () =>
  [...(form.value?.querySelectorAll<HTMLInputElement>('input[data-value]') ?? [])].filter(
    (field) => field.offsetParent,
  )
function step(field: EventTarget | null, by: number) {
  const all = fields()
  const next = all[all.indexOf(field as HTMLInputElement) + by]
  if (next) next.focus()
  else if (by > 0) form.value?.querySelector<HTMLButtonElement>('button[type=submit]')?.focus()
}
async function keep() {
  if (await session.keep()) {
    void router.push({ name: 'sheet', params: { system: props.bench.system_id } })
    return
  }
  await nextTick()
  const field = session.refused.value?.problem.fields[0]?.field
  const at = fields().find((input) => input.id === `value-${field}`)
  ;(at ?? fields()[0])?.focus()
}
onMounted(() => props.look || fields()[0]?.focus())
</script>

<template>
  <div class="page-head">
    <h1>Bench, {{ bench.name }}</h1>
    <span class="soft"
      >{{ clockWords(bench.now) }} · salinity before the ions · Enter goes to the next row</span
    >
  </div>
  <VisualCheck :system="bench.system_id" :open="look" />
  <form ref="form" novalidate @submit.prevent="keep" @keydown.ctrl.enter.prevent="keep">
    <div class="rows" role="table" aria-label="Test session">
      <div class="heads" role="row">
        <span role="columnheader">Test</span>
        <span role="columnheader">Result</span>
        <span role="columnheader">Last</span>
        <span role="columnheader">Verdict</span>
        <span role="columnheader">Instrument</span>
      </div>
      <BenchRow
        v-for="(row, index) in bench.rows"
        v-show="isShown(row, index)"
        :key="row.parameter"
        :system="bench.system_id"
        :row="row"
        :draft="session.drafts[index]!"
        :judged="session.judged(index)"
        :refused="session.refused.value?.at(row.parameter)"
        @next="step($event, 1)"
        @before="step($event, -1)"
      />
    </div>
    <p v-if="session.refused.value" class="magenta refused" role="alert">
      {{ session.refused.value.message }}
    </p>
    <p v-else-if="session.problem.value" class="magenta refused" role="status">
      {{ session.problem.value.message }}
    </p>
    <div class="ways">
      <v-btn type="submit" variant="flat" :loading="session.saving.value">
        Save {{ session.filled.value || '' }} {{ session.filled.value === 1 ? 'result' : 'results' }}
      </v-btn>
      <v-btn type="button" :disabled="!session.filled.value" @click="session.empty()">Clear</v-btn>
      <WhenField
        v-model="session.when.value"
        label="Tested earlier?"
        :error="session.refused.value?.at('when') ?? session.problem.value?.at('when')"
      />
      <button class="plain-link" type="button" :aria-expanded="more" @click="more = !more">
        {{ more ? 'only the usual tests' : 'more tests' }}
      </button>
      <span class="note"
        >Second reading: 8.2 / 8.4. Diluted one to one: 21 x2. Counted: 17 drops. A draft stays on this device
        until you save. Ctrl Enter saves.</span
      >
    </div>
  </form>
</template>

<style scoped>
.heads {
  display: grid;
  grid-template-columns: 116px minmax(190px, 230px) 158px minmax(0, 1fr) 190px;
  gap: 4px 14px;
  font-size: 0.8rem;
  font-style: italic;
  color: var(--soft);
  padding-bottom: 4px;
}
.ways {
  display: flex;
  gap: 12px;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 14px;
}
.refused {
  margin-top: 10px;
}
@media (max-width: 900px) {
  .heads {
    display: none;
  }
  .ways {
    position: sticky;
    bottom: 50px;
    background: var(--paper);
    padding: 8px 0;
  }
  .ways .note {
    display: none;
  }
}
</style>
