<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { answer, api, type ProblemError, type Schemas, refusal } from '../api/client'
import FieldText from './FieldText.vue'
import WhenField from './WhenField.vue'
import type { Care } from './care'

/** The water of a change that was done: litres and what came in, filled in as the routine has it. */
const props = defineProps<{ care: Care }>()
const asked = ref<Schemas['ChangeAsked']>()
const told = reactive<Schemas['ChangedBody']>({ litres: '', water: 'mix', salt_id: null, salinity: '' })
const refused = ref<ProblemError>()
const busy = ref(false)
const when = ref('')
const now = computed(() => props.care.changing.value)
const open = computed(() => asked.value?.incomplete[0])
const wrong = (field: string) =>
  refused.value?.at(`changed.${field}`) ??
  refused.value?.at(field) ??
  refused.value?.problem.fields.find((one) => one.field.endsWith(`changed.${field}`))?.message
const WATERS = [
  { title: 'a fresh mix', value: 'mix' },
  { title: 'natural seawater', value: 'natural' },
]

watch(now, async (work) => {
  asked.value = undefined
  refused.value = undefined
  when.value = work?.found?.when ?? ''
  if (!work) return
  const path = { system_id: work.system }
  asked.value = await answer(api.GET('/api/systems/{system_id}/changed', { params: { path } }))
  Object.assign(told, {
    litres: asked.value.litres,
    water: asked.value.water as 'mix' | 'natural',
    salt_id: asked.value.salt_id,
    salinity: asked.value.salinity,
  })
})

async function save() {
  busy.value = true
  refused.value = undefined
  try {
    await props.care.changed({ ...told }, now.value?.complete ? open.value?.entry_id : undefined, when.value)
  } catch (fault) {
    refused.value = refusal(fault)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog :model-value="!!now" max-width="440" @update:model-value="care.leaveChange()">
    <v-card :title="now?.complete && open ? `Water change of ${open.words}` : 'Water change done'">
      <form @submit.prevent="save">
        <v-card-text v-if="asked" class="fields">
          <FieldText v-model="told.litres" label="Changed" unit="L" autofocus :error="wrong('litres')" />
          <v-select v-model="told.water" label="New water" :items="WATERS" />
          <v-select
            v-if="told.water === 'mix'"
            v-model="told.salt_id"
            label="Salt"
            :items="asked.salts.map((one) => ({ title: one.name, value: Number(one.key) }))"
            :error-messages="wrong('salt_id')"
          />
          <FieldText
            :model-value="told.salinity ?? ''"
            label="Salinity of the new water"
            :unit="asked.salinity_unit"
            :error="wrong('salinity')"
            @update:model-value="told.salinity = $event"
          />
          <WhenField v-if="now?.item && !now.take" v-model="when" :error="wrong('when')" />
          <p v-if="refused && !refused.problem.fields.length" class="magenta" role="alert">
            {{ refused.message }}
          </p>
        </v-card-text>
        <v-card-actions>
          <v-btn v-if="now?.complete" type="button" @click="care.leaveIncomplete()"
            >Leave them as they are</v-btn
          >
          <v-btn type="button" @click="care.leaveChange()">Cancel</v-btn>
          <v-btn type="submit" variant="flat" :loading="busy" :disabled="!asked">Save</v-btn>
        </v-card-actions>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 10px;
}
</style>
