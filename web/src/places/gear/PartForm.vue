<script setup lang="ts">
import { reactive } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { typed } from '../../parts/numbers'
import PictureInput from '../../parts/PictureInput.vue'
import { useCommands } from '../../parts/useCommands'
import { usePictures } from '../../parts/usePictures'
import DateField from '../../parts/DateField.vue'
import { BASE } from '../../parts/example'

/** What the keeper tells of a part, and the picture of the order in which its pieces come out. */
const props = defineProps<{ part: Schemas['PartShown']; system: number }>()
const commands = useCommands()
const pictures = usePictures(() => props.system)
const refresh = useRefresh()
const kept = props.part.kept
const text = (value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(value)
const told = reactive({
  since: kept.since ?? '',
  hours_per_day: text(kept.hours_per_day),
  most_hours: text(kept.most_hours),
  most_days: text(kept.most_days),
  spares: text(kept.spares),
  note: kept.note ?? '',
})
const number = (value: string) => (value.trim() ? typed(value) : null)
const put = (body: Schemas['GearPartBody']) =>
  command((header) =>
    api.PUT('/api/systems/{system_id}/gear/{part}', {
      params: { path: { system_id: props.system, part: props.part.part }, header },
      body,
    }),
  )
function keep() {
  const before = { ...kept }
  return commands.runWith(
    () =>
      put({
        since: told.since || null,
        hours_per_day: number(told.hours_per_day),
        most_hours: number(told.most_hours),
        most_days: number(told.most_days),
        spares: number(told.spares),
        note: told.note,
      }),
    () => put(before),
  )
}
async function bring(files: FileList) {
  if ((await pictures.bring(files, { subject: props.part.subject })).length) await refresh()
}
</script>

<template>
  <div class="told">
    <form class="fields" @submit.prevent="keep">
      <DateField v-model="told.since" label="Installed on" :error="commands.wrong('since')" />
      <v-text-field
        v-model="told.spares"
        label="Spares on the Shelf"
        inputmode="numeric"
        persistent-placeholder
        placeholder="not counted"
        :error-messages="commands.wrong('spares')"
      />
      <template v-if="part.hours">
        <v-text-field
          v-model="told.hours_per_day"
          label="It runs"
          suffix="h a day"
          inputmode="decimal"
          persistent-placeholder
          :placeholder="String(part.usual_hours_per_day)"
          :error-messages="commands.wrong('hours_per_day')"
        />
        <v-text-field
          v-model="told.most_hours"
          label="It lasts"
          suffix="h"
          inputmode="numeric"
          persistent-placeholder
          :placeholder="String(part.usual_most_hours)"
          :error-messages="commands.wrong('most_hours')"
        />
      </template>
      <v-text-field
        v-if="part.days"
        v-model="told.most_days"
        label="It lasts"
        suffix="days"
        inputmode="numeric"
        persistent-placeholder
        :placeholder="String(part.usual_most_days)"
        :error-messages="commands.wrong('most_days')"
      />
      <v-text-field v-model="told.note" label="Note" maxlength="300" class="wide" />
      <div><v-btn type="submit" variant="flat" :loading="commands.busy.value">Save</v-btn></div>
    </form>
    <figure>
      <router-link v-if="part.photo" :to="{ name: 'pictures', params: { system } }">
        <img :src="BASE + part.photo" :alt="`The pieces of ${part.name} in their order`" />
      </router-link>
      <figcaption class="small">
        <template v-if="part.photo">the order of its pieces, {{ part.photo_words }} · </template>
        <PictureInput
          :label="part.photo ? 'a new picture' : 'picture of the order of its pieces'"
          :name="`Picture of ${part.name}`"
          :busy="Boolean(pictures.busy.value)"
          @files="bring"
        />
        <p v-if="pictures.refused.value" role="alert" class="magenta">{{ pictures.refused.value }}</p>
      </figcaption>
    </figure>
  </div>
</template>

<style scoped>
.told {
  display: grid;
  grid-template-columns: 1fr 260px;
  gap: 18px;
  padding: 10px 0 6px;
}
.wide {
  grid-column: span 2;
}
figure {
  margin: 0;
}
img {
  width: 100%;
  border: 1px solid var(--line);
}
.small {
  font-size: 0.86rem;
}
@media (max-width: 700px) {
  .told {
    grid-template-columns: 1fr;
  }
  .wide {
    grid-column: auto;
  }
}
</style>
