<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import { animalText, type Animal, type Livestock } from './useLivestock'

/** A new animal, or what is known of one that is there. */
const props = defineProps<{ data: Schemas['LivestockAnswer']; acts: Livestock; one?: Animal }>()
const emit = defineEmits<{ done: [] }>()
const form = reactive(animalText(props.data, props.one))
const more = ref(!!props.one)
const place = props.one?.id ?? 'new'
const demands = props.data.demands.map((one) => ({ title: one.name, value: one.key }))
const wrong = (field: string) => props.acts.wrong(place, field)

/** A demanding animal starts with half of the usual limits; what is typed stays. */
function demanded(demand: string) {
  if (demand !== 'demanding') return
  for (const limit of props.data.limits) form.limits[limit.parameter] ||= String(limit.demanding)
  more.value = true
}
async function keep() {
  const kept = await (props.one ? props.acts.edit(props.one.id, form) : props.acts.add(form))
  if (!kept) return
  Object.assign(form, animalText(props.data))
  emit('done')
}
</script>

<template>
  <!-- Inside the form of the set-up, so no form of its own: Enter is caught here. -->
  <div
    class="animal"
    role="group"
    :aria-label="one ? one.name : 'Another animal'"
    @keydown.enter.stop.prevent="keep"
  >
    <div class="fields">
      <FieldText
        v-model="form.name"
        :label="one ? 'Name of the animal' : 'Another animal'"
        type="text"
        :error="wrong('name')"
      />
      <FieldText v-if="!one" v-model="form.count" label="How many" :error="wrong('count')" />
      <v-select
        v-model="form.demand"
        :items="demands"
        label="How demanding"
        :hint="data.demands.find((each) => each.key === form.demand)?.remark"
        persistent-hint
        @update:model-value="demanded"
      />
      <FieldText v-model="form.portions" label="Least portions a day" :error="wrong('portions')" />
      <FieldText v-model="form.air_min" label="Minutes it can be in air" :error="wrong('air_min')" />
    </div>
    <template v-if="more">
      <div class="spans">
        <span v-for="row in data.tolerated" :key="row.key" class="span">
          {{ row.name }}
          <input
            v-for="end in ['low', 'high'] as const"
            :key="end"
            v-model="form.tolerances[row.key]![end]"
            inputmode="decimal"
            :aria-label="`${row.name}, tolerates ${end === 'low' ? 'from' : 'up to'}`"
          />
          <span class="unit">{{ row.remark }}</span>
          <span
            v-if="wrong(`tolerances.${row.key}.low`) ?? wrong(`tolerances.${row.key}.high`)"
            class="magenta"
          >
            {{ wrong(`tolerances.${row.key}.low`) ?? wrong(`tolerances.${row.key}.high`) }}
          </span>
        </span>
        <span v-for="row in data.limits" :key="row.parameter" class="span">
          {{ row.name }}, most in a day
          <input
            v-model="form.limits[row.parameter]"
            inputmode="decimal"
            :aria-label="`${row.name}, most in a day for it`"
          />
          <span class="unit">{{ row.unit }}</span>
          <span v-if="wrong(`limits.${row.parameter}`)" class="magenta">{{
            wrong(`limits.${row.parameter}`)
          }}</span>
        </span>
      </div>
    </template>
    <div class="ways">
      <v-btn variant="outlined" size="small" @click="keep">{{ one ? 'Save' : 'Add' }}</v-btn>
      <button class="plain-link" type="button" :aria-expanded="more" @click="more = !more">
        what it tolerates
      </button>
    </div>
  </div>
</template>

<style scoped>
.animal {
  display: grid;
  gap: 10px;
  padding: 10px 0;
}
.spans {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 6px 20px;
}
.span {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
}
.span input {
  width: 70px;
  text-align: right;
  padding: 4px 8px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
}
.ways {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
@media (max-width: 700px) {
  .spans {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
