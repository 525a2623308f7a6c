<script setup lang="ts">
import { api, type Schemas } from '../../api/client'
import ChemText from '../../parts/ChemText.vue'
import FieldText from '../../parts/FieldText.vue'
import { typed, written } from '../../parts/numbers'
import { perhaps, useShelfItem, type Shelf } from './useShelf'
import DateField from '../../parts/DateField.vue'

/** Additives by formula, dry or as a solution, each with what it raises. */
const props = defineProps<{ data: Schemas['ShelfAnswer']; acts: Shelf }>()
const BLANK = { id: 0, name: '', formula: '', purity: '100', strength: '', bulk: '', expires_on: '' }
const { form, wrong, edit, keep } = useShelfItem(props.acts, 'additive', BLANK, (now, header) => {
  const body = {
    name: now.name,
    formula: now.formula,
    purity_percent: typed(now.purity),
    strength_g_l: perhaps(now.strength),
    bulk_density_g_ml: perhaps(now.bulk),
    expires_on: now.expires_on,
  }
  const path = { item_id: now.id }
  return now.id
    ? api.PUT('/api/additives/{item_id}', { params: { path, header }, body })
    : api.POST('/api/additives', { params: { header }, body })
})
const addCommon = () =>
  props.acts.send('starters', (header) => api.POST('/api/additives/starters', { params: { header } }))
const texts = (one: Schemas['AdditiveShown']) => ({
  id: one.id,
  name: one.name,
  formula: one.formula,
  purity: written(one.purity_percent ?? 100),
  strength: written(one.strength_g_l ?? ''),
  bulk: written(one.bulk_density_g_ml ?? ''),
  expires_on: one.expires_on ?? '',
})
</script>

<template>
  <p v-if="!data.additives.length" class="note">
    None yet. By formula:
    <button class="plain-link" type="button" @click="addCommon">add soda, calcium and magnesium</button>
  </p>
  <ul>
    <li v-for="one in data.additives" :key="one.id" class="row">
      <b>{{ one.name }}</b>
      <span
        ><ChemText :text="one.formula" /><template v-if="one.strength_g_l"
          >, {{ one.strength_g_l }} g/L solution</template
        ><template v-if="one.purity_percent !== 100">, {{ one.purity_percent }} % pure</template></span
      >
      <span class="soft">{{ one.words }}</span>
      <span v-if="one.expired" class="magenta">expired</span>
      <span class="grow" />
      <button class="plain-link" type="button" @click="edit(texts(one))">edit</button>
      <button class="plain-link" type="button" @click="acts.away('additive', one.id, one.name)">
        remove
      </button>
    </li>
  </ul>
  <form novalidate class="fields" @submit.prevent="keep">
    <FieldText
      v-model="form.name"
      :label="form.id ? 'Name of the additive' : 'Another additive'"
      type="text"
      :error="wrong('name')"
    />
    <FieldText
      v-model="form.formula"
      label="Formula"
      type="text"
      list="compounds"
      :error="wrong('formula')"
    />
    <FieldText v-model="form.purity" label="Purity" unit="%" :error="wrong('purity_percent')" />
    <FieldText
      v-model="form.strength"
      label="If a solution: strength"
      unit="g/L"
      :error="wrong('strength_g_l')"
    />
    <FieldText
      v-model="form.bulk"
      label="A millilitre, dry, weighs"
      unit="g/mL"
      :error="wrong('bulk_density_g_ml')"
    />
    <DateField v-model="form.expires_on" ahead label="Good until" :error="wrong('expires_on')" />
    <v-btn type="submit" size="small">{{ form.id ? 'Save' : 'Add to the Shelf' }}</v-btn>
    <p class="note wide">
      Formulas with known solubility:
      <ChemText :text="data.compounds.map((one) => one.key).join(', ')" />. Caustics and acids: gloves,
      goggles, powder into water.
    </p>
  </form>
</template>
