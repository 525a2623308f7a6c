<script setup lang="ts">
import { computed } from 'vue'
import { api, type Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import { written } from '../../parts/numbers'
import { perhaps, useShelfItem, type Shelf } from './useShelf'
import DateField from '../../parts/DateField.vue'

/** Foods with what a portion brings; what is left empty is taken from the kind. */
const props = defineProps<{ data: Schemas['ShelfAnswer']; acts: Shelf }>()
const BLANK = {
  id: 0,
  name: '',
  kind: 'frozen',
  dry: '',
  nitrogen: '',
  phosphorus: '',
  portion: '',
  expires_on: '',
}
const { form, wrong, edit, keep } = useShelfItem(props.acts, 'food', BLANK, (now, header) => {
  const body = {
    name: now.name,
    kind: now.kind,
    dry_percent: perhaps(now.dry),
    nitrogen_percent: perhaps(now.nitrogen),
    phosphorus_percent: perhaps(now.phosphorus),
    portion_g: perhaps(now.portion),
    expires_on: now.expires_on,
  }
  const path = { item_id: now.id }
  return now.id
    ? api.PUT('/api/foods/{item_id}', { params: { path, header }, body })
    : api.POST('/api/foods', { params: { header }, body })
})
const kinds = props.data.food_kinds.map((one) => ({ title: one.name, value: one.key }))
const usual = computed(() => props.data.food_kinds.find((one) => one.key === form.kind))
const left = (value?: number) => `(${written(value ?? '')} if empty)`
const texts = (one: Schemas['FoodShown']) => ({
  id: one.id,
  name: one.name,
  kind: one.kind,
  dry: written(one.dry_percent),
  nitrogen: written(one.nitrogen_percent),
  phosphorus: written(one.phosphorus_percent),
  portion: written(one.portion_g),
  expires_on: one.expires_on,
})
</script>

<template>
  <ul>
    <li v-for="one in data.foods" :key="one.id" class="row">
      <b>{{ one.name }}</b>
      <span class="soft">{{ one.words }}</span>
      <span v-if="one.expired" class="magenta">expired</span>
      <span class="grow" />
      <button class="plain-link" type="button" @click="edit(texts(one))">edit</button>
      <button class="plain-link" type="button" @click="acts.away('food', one.id, one.name)">remove</button>
    </li>
  </ul>
  <form novalidate class="fields" @submit.prevent="keep">
    <FieldText
      v-model="form.name"
      :label="form.id ? 'Name of the food' : 'Another food'"
      type="text"
      :error="wrong('name')"
    />
    <v-select v-model="form.kind" :items="kinds" label="Kind" />
    <FieldText
      v-model="form.portion"
      :label="`A portion ${left(usual?.portion_g)}`"
      unit="g"
      :error="wrong('portion_g')"
    />
    <FieldText
      v-model="form.dry"
      :label="`Dry ${left(usual?.dry_percent)}`"
      unit="%"
      :error="wrong('dry_percent')"
    />
    <FieldText
      v-model="form.nitrogen"
      :label="`N of the dry ${left(usual?.nitrogen_percent)}`"
      unit="%"
      :error="wrong('nitrogen_percent')"
    />
    <FieldText
      v-model="form.phosphorus"
      :label="`P of the dry ${left(usual?.phosphorus_percent)}`"
      unit="%"
      :error="wrong('phosphorus_percent')"
    />
    <DateField v-model="form.expires_on" ahead label="Good until" :error="wrong('expires_on')" />
    <v-btn type="submit" size="small">{{ form.id ? 'Save' : 'Add to the Shelf' }}</v-btn>
    <p class="note wide">Nitrogen is protein over 6.25. A label's own analysis wins over what is usual.</p>
  </form>
</template>
