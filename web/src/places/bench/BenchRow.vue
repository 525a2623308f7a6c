<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../../api/client'
import PictureInput from '../../parts/PictureInput.vue'
import { usePictures } from '../../parts/usePictures'
import type { Draft } from './useBench'

const props = defineProps<{
  system: number
  row: Schemas['BenchRow']
  draft: Draft
  judged?: Schemas['RowAnswer']
  refused?: string
}>()
const emit = defineEmits<{ next: [from: EventTarget | null]; before: [from: EventTarget | null] }>()
/* The draft is the session's own reactive row; it is edited in place. */
const draft = computed(() => props.draft)

const { bring, busy, refused: pictureRefused } = usePictures(() => props.system)
async function take(files: FileList) {
  const [kept] = await bring(files, { subject: props.row.name })
  if (kept) draft.value.picture_id = kept.picture.id
}

const problem = computed(() => props.judged?.problem?.message ?? props.refused)
const accepted = computed(() => props.judged?.problem?.accepted)
const doubts = computed(() => props.judged?.doubts ?? [])
const converted = computed(() => {
  const understood = props.judged?.understood
  const asTyped = draft.value.unit === props.row.unit && !props.judged?.how
  return understood && !asTyped ? `= ${understood.text} ${understood.unit}` : ''
})
/* A kit that counts has its drops as a unit too. */
const counts = computed(() => props.row.counting.includes(draft.value.instrument))
const units = computed(() => [
  ...props.row.units,
  ...(counts.value ? [{ key: 'drops', label: 'drops' }] : []),
])
watch(counts, (now) => !now && draft.value.unit === 'drops' && (draft.value.unit = props.row.unit))
/** Where all is well one line is enough; its reasons are a press away. */
const quiet = computed(
  () => props.judged?.verdict?.position === 'in_band' && !doubts.value.length && !converted.value,
)
const why = ref(false)
const verdictId = computed(() => `verdict-${props.row.parameter}`)
</script>

<template>
  <div class="row" role="row" :class="{ wrong: problem, asked: doubts.length && !draft.confirmed }">
    <label :for="`value-${row.parameter}`" role="rowheader">
      {{ row.name }}
      <span v-if="row.band" class="band"
        >{{ row.band.low.text }}–{{ row.band.high.text }} {{ row.band.high.unit }}</span
      >
    </label>
    <span class="entry" role="cell">
      <input
        :id="`value-${row.parameter}`"
        v-model="draft.text"
        data-value
        inputmode="decimal"
        autocomplete="off"
        maxlength="40"
        :aria-invalid="!!problem"
        :aria-describedby="verdictId"
        @keydown.enter.exact.prevent="emit('next', $event.target)"
        @keydown.down.prevent="emit('next', $event.target)"
        @keydown.up.prevent="emit('before', $event.target)"
      />
      <select v-if="units.length > 1" v-model="draft.unit" :aria-label="`Unit of ${row.name}`">
        <option v-for="unit in units" :key="unit.key" :value="unit.key">{{ unit.label }}</option>
      </select>
      <span v-else class="unit only">{{ row.units[0]?.label || 'NBS' }}</span>
    </span>
    <span class="last" role="cell">
      <template v-if="row.last">
        {{ row.last.value.text }} <span class="unit">{{ row.last.value.unit }}</span>
        <span class="when">{{ row.last.day }}</span>
      </template>
      <span v-else class="note">no recent reading</span>
    </span>
    <span :id="verdictId" class="verdict" role="cell" aria-live="polite">
      <template v-if="problem">
        <b class="magenta">{{ problem }}</b>
        <span v-if="accepted && !problem.includes(accepted)" class="soft"> Accepted: {{ accepted }}.</span>
      </template>
      <template v-else-if="judged?.verdict">
        <b :class="{ magenta: judged.verdict.out }">{{ judged.verdict.words }}</b>
        <span v-if="converted" class="soft converted">{{ converted }}</span>
        <button v-if="quiet" class="plain-link why" type="button" :aria-expanded="why" @click="why = !why">
          Why
        </button>
        <template v-if="!quiet || why">
          <span v-if="judged.how" class="reason">{{ judged.how }}</span>
          <span v-for="reason in judged.verdict.reasons" :key="reason" class="reason">{{ reason }}</span>
        </template>
      </template>
      <span v-else-if="!draft.text.trim()" class="when">{{ row.again }}</span>
      <span v-if="row.plan" class="reason">{{ row.plan }}</span>
      <span v-for="doubt in doubts" :key="doubt" class="doubt">
        <span class="magenta">{{ doubt }}</span>
      </span>
      <label v-if="doubts.length" class="sure">
        <input v-model="draft.confirmed" type="checkbox" /> it is right, save it
      </label>
    </span>
    <span class="tool" role="cell">
      <select
        v-if="row.instruments.length"
        v-model="draft.instrument"
        :aria-label="`Instrument for ${row.name}`"
      >
        <option v-for="name in row.instruments" :key="name">{{ name }}</option>
      </select>
      <span v-if="draft.text" class="beside">
        <input v-model="draft.note" class="memo" placeholder="note" :aria-label="`Note on ${row.name}`" />
        <PictureInput
          :label="draft.picture_id ? 'another picture' : 'picture'"
          :name="`Picture for ${row.name}`"
          :busy="!!busy"
          @files="take"
        />
      </span>
      <span v-if="draft.picture_id" class="band">picture attached</span>
      <span v-if="pictureRefused" class="magenta" role="alert">{{ pictureRefused }}</span>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 116px minmax(190px, 230px) 158px minmax(0, 1fr) 190px;
  gap: 4px 14px;
  align-items: start;
  padding: 8px 0;
  border-top: 1px solid var(--line);
  min-height: 58px;
}
label[role='rowheader'] {
  font-weight: 700;
  display: flex;
  flex-direction: column;
  padding-top: 2px;
}
.band,
.when {
  font-weight: 400;
  font-size: 0.8rem;
  color: var(--soft);
  font-style: italic;
  display: block;
}
.entry {
  display: flex;
  gap: 6px;
  align-items: center;
}
input[data-value] {
  width: 92px;
  font-size: 1.2rem;
  font-weight: 600;
  text-align: right;
  padding: 5px 8px;
  background: var(--card);
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
}
.wrong input[data-value] {
  border-color: var(--magenta);
  box-shadow: 0 0 0 1px var(--magenta);
}
select,
.memo {
  font-size: 0.875rem;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px dotted var(--soft);
  padding: 3px 0;
  max-width: 100%;
}
option {
  color: #14303d;
}
.tool {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
}
.beside {
  display: flex;
  gap: 12px;
  align-items: baseline;
  font-size: 0.875rem;
}
.beside .memo {
  flex: 1;
  min-width: 0;
}
.last {
  padding-top: 5px;
}
.last .when {
  display: inline;
  margin-left: 4px;
  white-space: nowrap;
}
.why {
  margin-left: 10px;
}
.verdict {
  padding-top: 5px;
  font-size: 0.9rem;
  line-height: 1.3;
}
.converted {
  margin-left: 8px;
}
.reason,
.doubt {
  display: block;
  color: var(--soft);
}
.sure {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  font-weight: 600;
  padding-top: 2px;
}
.sure input {
  accent-color: var(--ink);
}
@media (max-width: 900px) {
  input[data-value],
  .entry select,
  .tool select {
    min-height: 44px;
  }
  .row {
    grid-template-columns: minmax(0, 1fr) 148px;
  }
  label[role='rowheader'] {
    grid-column: 1;
  }
  .last {
    text-align: right;
    padding-top: 0;
  }
  .entry {
    grid-column: 1;
    grid-row: 2;
  }
  .tool {
    grid-column: 2;
    grid-row: 2;
  }
  .last {
    grid-column: 2;
    grid-row: 1;
  }
  .verdict {
    grid-column: 1 / -1;
    padding-top: 0;
  }
}
</style>
