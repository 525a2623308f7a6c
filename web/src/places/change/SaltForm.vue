<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, command, ProblemError, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { useNotices } from '../../parts/notices'
import { typed } from '../../parts/numbers'

const notices = useNotices()
const refresh = useRefresh()
const problem = ref<ProblemError>()
const salt = reactive({ name: '', strength: '', basis: 'finished_water' as Schemas['StrengthBasis'] })
const label = reactive({ alkalinity: '', calcium: '', magnesium: '' })
const names = {
  alkalinity: 'Alkalinity at 35 ppt',
  calcium: 'Calcium at 35 ppt',
  magnesium: 'Magnesium at 35 ppt',
}
const bases = [
  { title: 'per litre of finished water', value: 'finished_water' },
  { title: 'per litre of fresh water', value: 'fresh_water' },
]

/** "8.5" or a printed range "8.2-8.8". */
function range(text: string) {
  const [low, high] = text.split(/\s*(?:–|to|-)\s*/)
  return { low: typed(low ?? ''), high: typed(high ?? low ?? '') }
}
async function keep() {
  const printed = Object.entries(label).filter(([, text]) => text.trim())
  const body = {
    name: salt.name,
    strength_g_l: typed(salt.strength),
    basis: salt.basis,
    values: Object.fromEntries(printed.map(([name, text]) => [name, range(text)])),
  }
  try {
    const kept = await command((header) => api.POST('/api/salts', { params: { header }, body }))
    notices.say(`${kept.name} is on the shelf.`)
    await refresh()
  } catch (fault) {
    if (!(fault instanceof ProblemError)) throw fault
    problem.value = fault
  }
}
function wrong(field: string) {
  return problem.value?.problem.fields.find((item) => item.field.startsWith(field))?.message
}
</script>

<template>
  <form class="card" @submit.prevent="keep">
    <h2>The salt you use, as its label has it</h2>
    <FieldText v-model="salt.name" label="Name" type="text" :error="wrong('name')" />
    <div class="two">
      <FieldText v-model="salt.strength" label="For 35 ppt" unit="g/L" :error="wrong('strength_g_l')" />
      <v-select v-model="salt.basis" :items="bases" label="Counted" />
    </div>
    <FieldText
      v-for="(words, name) in names"
      :key="name"
      v-model="label[name]"
      :label="words"
      hint="one value or a range such as 400–420; leave empty what is not printed"
      :error="wrong(`values.${name}`)"
    />
    <p v-if="problem" class="magenta" role="alert">{{ problem.message }}</p>
    <v-btn type="submit" variant="flat">Put it on the shelf</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 14px;
  padding: 18px;
  max-width: 560px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
</style>
