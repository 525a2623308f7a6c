<script setup lang="ts">
import { reactive, ref } from 'vue'
import type { Schemas } from '../../api/client'
import AnimalForm from './AnimalForm.vue'
import { typed } from '../../parts/numbers'
import type { Animal, Livestock } from './useLivestock'

/** One animal: its number, what it bears, and births, losses and counts. */
const props = defineProps<{ one: Animal; data: Schemas['LivestockAnswer']; acts: Livestock }>()
const open = ref<'turn' | 'edit'>()
const turn = reactive({ turn: 'lost' as Schemas['StockChange'], number: '1', cause: '' })
async function keep() {
  const body = { ...turn, number: typed(turn.number) }
  if (await props.acts.turn(props.one.id, body)) open.value = undefined
}
function toggle(way: 'turn' | 'edit') {
  open.value = open.value === way ? undefined : way
}
</script>

<template>
  <li>
    <div class="line">
      <b>{{ one.count }} × {{ one.name }}</b>
      <span>{{ one.demand }}</span>
      <span class="soft">{{ one.words }}</span>
      <span class="acts">
        <button class="plain-link" type="button" :aria-expanded="open === 'turn'" @click="toggle('turn')">
          number
        </button>
        <button class="plain-link" type="button" :aria-expanded="open === 'edit'" @click="toggle('edit')">
          edit
        </button>
        <button class="plain-link" type="button" @click="acts.away(one.id)">remove</button>
      </span>
    </div>
    <div
      v-if="open === 'turn'"
      class="turn"
      role="group"
      :aria-label="`Number of ${one.name}`"
      @keydown.enter.stop.prevent="keep"
    >
      <input v-model="turn.number" inputmode="numeric" :aria-label="`How many ${one.name}`" />
      <select v-model="turn.turn" :aria-label="`What became of ${one.name}`">
        <option v-for="way in data.turns" :key="way" :value="way">{{ way }}</option>
      </select>
      <input v-model="turn.cause" class="cause" placeholder="cause, if known" aria-label="Cause, if known" />
      <v-btn variant="outlined" size="small" @click="keep">Save</v-btn>
      <span v-if="acts.wrong(one.id, 'number')" class="magenta" role="alert">{{
        acts.wrong(one.id, 'number')
      }}</span>
    </div>
    <AnimalForm v-if="open === 'edit'" :one="one" :data="data" :acts="acts" @done="open = undefined" />
  </li>
</template>

<style scoped>
li {
  border-top: 1px solid var(--line);
  padding: 7px 0;
}
.line {
  display: grid;
  grid-template-columns: 190px 90px minmax(0, 1fr) auto;
  gap: 2px 16px;
  align-items: baseline;
}
.acts,
.turn {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: baseline;
}
.turn {
  padding: 8px 0;
}
.turn input,
.turn select {
  width: 80px;
  padding: 4px 8px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  color: var(--ink);
}
.turn select {
  width: auto;
}
.turn .cause {
  width: 220px;
}
@media (max-width: 700px) {
  .line {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
