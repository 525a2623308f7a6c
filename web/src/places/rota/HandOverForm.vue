<script setup lang="ts">
import { reactive } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import SecretAddress from '../../parts/SecretAddress.vue'
import { useCommands } from '../../parts/useCommands'

/** Who comes how often, whom to call, what else is to be said; and the carer's own page. */
const props = defineProps<{ kept: Schemas['HandOverShown'] }>()
const commands = useCommands()
const { every_days, carer, phone, other_phone, note } = props.kept
const told = reactive({ every_days, carer, phone, other_phone, note })
const notes = reactive<Record<number, string>>({ ...props.kept.notes })
const path = { number: props.kept.away_id }

const keep = () =>
  commands.runWith(
    () =>
      command((header) =>
        api.PUT('/api/rota/away/{number}/hand-over', {
          params: { path, header },
          body: {
            ...told,
            notes: Object.entries(notes).map(([system, text]) => ({ system_id: Number(system), text })),
          },
        }),
      ),
    undefined,
  )
const makeLink = () =>
  commands.runWith(
    () =>
      command((header) => api.POST('/api/rota/away/{number}/hand-over/link', { params: { path, header } })),
    undefined,
  )
const dropLink = () =>
  commands.runWith(
    () =>
      command((header) => api.DELETE('/api/rota/away/{number}/hand-over/link', { params: { path, header } })),
    undefined,
  )
</script>

<template>
  <section>
    <form class="fields" @submit.prevent="keep">
      <v-text-field v-model="told.carer" label="Who comes" maxlength="60" />
      <v-text-field
        v-model="told.phone"
        label="Number to call"
        maxlength="60"
        inputmode="tel"
        :error-messages="commands.wrong('phone')"
      />
      <v-text-field v-model="told.other_phone" label="Another number" maxlength="60" inputmode="tel" />
      <v-select
        v-model="told.every_days"
        label="A visit"
        :items="[
          { title: 'every day', value: 1 },
          ...[2, 3, 4, 5, 6, 7].map((days) => ({ title: `every ${days} days`, value: days })),
        ]"
        :error-messages="commands.wrong('every_days')"
      />
      <v-text-field v-model="told.note" class="wide" label="For the carer" maxlength="600" />
      <v-text-field
        v-for="one in kept.sheet.systems"
        :key="one.system_id"
        v-model="notes[one.system_id]"
        :label="`Only ${one.name}`"
        maxlength="600"
      />
      <div><v-btn type="submit" variant="flat" :loading="commands.busy.value">Save</v-btn></div>
    </form>
    <div v-if="kept.kept" class="link">
      <SecretAddress
        v-if="kept.link"
        :address="kept.link"
        label="The carer’s own page"
        @anew="makeLink"
        @drop="dropLink"
      />
      <v-btn v-else size="small" @click="makeLink">Create the carer's page</v-btn>
      <span class="note"
        >The carer’s page shows the sheet and takes reports, nothing else. It expires three days after you are
        back.</span
      >
    </div>
  </section>
</template>

<style scoped>
.wide {
  grid-column: 1 / -1;
}
.link {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin-top: 12px;
}
.link > .secret {
  width: 100%;
}
</style>
