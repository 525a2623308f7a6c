<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { reactive, ref } from 'vue'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../api/client'
import { shelfQuery, useRefresh } from '../api/queries'
import FieldText from './FieldText.vue'
import { useNotices } from './notices'
import { typed, written } from './numbers'

/** A salt as its label prints it: a new one, or one that is edited. */
const props = defineProps<{ one?: Schemas['SaltShown'] }>()
const emit = defineEmits<{ done: [] }>()
const { data } = useQuery(shelfQuery)
const notices = useNotices()
const refresh = useRefresh()
const refused = ref<ProblemError>()
const wrong = (field: string) => refused.value?.at(field)
const BLANK = {
  name: '',
  strength: '',
  basis: 'finished_water' as Schemas['StrengthBasis'],
  at: '35',
  bulk: '',
}
const form = reactive(
  props.one
    ? {
        name: props.one.name,
        strength: written(props.one.strength_g_l),
        basis: props.one.basis,
        at: props.one.printed_at ?? '35',
        bulk: written(props.one.bulk_density_g_ml ?? ''),
      }
    : { ...BLANK },
)
const printed = reactive<Record<string, string>>({ ...props.one?.printed })
const bases = [
  { title: 'per litre of finished water', value: 'finished_water' },
  { title: 'per litre of fresh water', value: 'fresh_water' },
]
async function keep() {
  refused.value = undefined
  const body: Schemas['SaltBody'] = {
    name: form.name,
    strength_g_l: typed(form.strength),
    basis: form.basis,
    printed,
    printed_at: form.at,
    bulk_density_g_ml: form.bulk.trim() ? typed(form.bulk) : null,
  }
  const path = { salt_id: props.one?.id ?? 0 }
  try {
    const kept = await (props.one
      ? answer(api.PUT('/api/salts/{salt_id}', { params: { path }, body }))
      : command((header) => api.POST('/api/salts', { params: { header }, body })))
    notices.say(`${kept.name} is on the Shelf.`)
    if (!props.one) Object.assign(form, BLANK)
    await refresh()
    emit('done')
  } catch (fault) {
    refused.value = refusal(fault)
  }
}
</script>

<template>
  <form class="card" novalidate @submit.prevent="keep">
    <h2>{{ one ? `${one.name}, from its label` : 'A salt from its label' }}</h2>
    <div class="grid">
      <FieldText v-model="form.name" label="Name" type="text" :error="wrong('name')" />
      <FieldText v-model="form.strength" label="For 35 ppt" unit="g/L" :error="wrong('strength_g_l')" />
      <v-select v-model="form.basis" :items="bases" label="Counted" />
      <FieldText
        v-model="form.at"
        label="Values stated at (ppt or SG)"
        type="text"
        :error="wrong('printed_at')"
      />
      <FieldText
        v-for="row in data?.printed ?? []"
        :key="row.key"
        v-model="printed[row.key]!"
        :label="`${row.name}, as printed`"
        :unit="row.remark"
        type="text"
        :error="wrong(`printed.${row.key}`)"
      />
      <FieldText
        v-model="form.bulk"
        label="A millilitre of it, dry, weighs"
        unit="g/mL"
        :error="wrong('bulk_density_g_ml')"
      />
    </div>
    <p class="note">
      As printed: 8.3, 2.95 ± 0.15 meq/L, 405–425, at least 360. Leave blank what is not printed; your own
      batches fill it in.
    </p>
    <v-btn type="submit" variant="flat">{{ one ? 'Save the label' : 'Add to the Shelf' }}</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  padding: 14px 18px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 12px;
  align-items: start;
}
.v-btn {
  justify-self: start;
}
</style>
