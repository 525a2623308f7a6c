<script setup lang="ts">
import type { Schemas } from '../../api/client'
import type { useAdd } from './useAdd'
import DateField from '../../parts/DateField.vue'
import WhenField from '../../parts/WhenField.vue'

/** Add to the sheet in place: the strips show what comes of it while it is typed. */
const props = defineProps<{
  add: ReturnType<typeof useAdd>
  offer: Schemas['PlanOffer']
  doubts: string[]
}>()
const { kind, form, wrong, asked, keep, close } = props.add
</script>

<template>
  <form
    class="card add no-print"
    novalidate
    aria-label="Add to the sheet"
    @submit.prevent="keep"
    @keydown.escape="close"
  >
    <div class="fields">
      <label>
        <span>Add</span>
        <select v-model="kind">
          <option value="reading">a reading</option>
          <option value="change">a water change</option>
          <option value="dose">a dose</option>
        </select>
      </label>
      <template v-if="kind === 'reading'">
        <label>
          <span>of</span>
          <select v-model="form.parameter">
            <option v-for="one in offer.parameters" :key="one.key" :value="one.key">{{ one.name }}</option>
          </select>
        </label>
        <label>
          <span>Value</span>
          <input v-model="form.text" class="short" inputmode="decimal" autofocus />
        </label>
        <WhenField v-model="form.when" label="Tested earlier?" />
      </template>
      <template v-else>
        <label v-if="kind === 'change'">
          <span>of, %</span>
          <input v-model="form.percent" class="short" inputmode="decimal" autofocus />
        </label>
        <template v-else>
          <label>
            <span>of</span>
            <select v-model="form.additive">
              <option v-for="one in offer.additives" :key="one.id" :value="one.id">{{ one.name }}</option>
            </select>
          </label>
          <label>
            <span>Amount</span>
            <input
              v-model="form.amount"
              class="short"
              :placeholder="offer.additives.find((one) => one.id === form.additive)?.measure"
              autofocus
            />
          </label>
        </template>
        <span class="on"><span>on</span> <DateField v-model="form.day" inline ahead label="on" /></span>
      </template>
      <v-btn type="submit" variant="flat" size="small">{{
        asked ? 'It is right' : kind === 'reading' ? 'Save' : 'Plan it'
      }}</v-btn>
      <button class="plain-link" type="button" @click="close">close</button>
    </div>
    <p v-if="kind === 'dose' && !offer.additives.length">
      There is no additive on the Shelf yet:
      <router-link :to="{ name: 'shelf' }">add one</router-link>.
    </p>
    <p v-if="kind === 'change' && !offer.salt">
      There is no salt on the Shelf yet: <router-link :to="{ name: 'shelf' }">add one</router-link>.
    </p>
    <p v-for="(words, field) in wrong" :key="field" class="magenta" role="alert">{{ words }}</p>
    <p v-for="words in asked ? [] : doubts" :key="words" class="magenta">{{ words }}</p>
  </form>
</template>

<style scoped>
.add {
  padding: 10px 14px;
  margin: 6px 0;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 12px;
}
label {
  display: grid;
  gap: 2px;
  font-size: 0.8rem;
  color: var(--soft);
}
input,
select {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 5px 9px;
  color: var(--ink);
  background: var(--card);
  font-size: 0.95rem;
  max-width: 220px;
}
option {
  color: #14303d;
}
.short {
  width: 108px;
}
p {
  font-size: 0.875rem;
  margin-top: 6px;
}
</style>
