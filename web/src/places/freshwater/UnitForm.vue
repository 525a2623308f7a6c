<script setup lang="ts">
import type { Schemas } from '../../api/client'
import DraftNote from '../../parts/DraftNote.vue'
import StageTable from './StageTable.vue'
import UnitFields from './UnitFields.vue'
import { useUnit } from './useUnit'

/** What the unit does and needs, beside how it is built. */
const props = defineProps<{ stored: Schemas['FreshWater'] }>()
const { form, draft, shown, busy, wrong, save } = useUnit(props.stored)
</script>

<template>
  <DraftNote :draft="draft" />
  <form class="columns" @submit.prevent="save">
    <div class="parts">
      <section class="card" aria-labelledby="start-title">
        <h2 id="start-title">{{ shown.start }}</h2>
        <p v-if="shown.start_why">{{ shown.start_why }}.</p>
        <p v-for="one in shown.diagnoses" :key="one" class="departs" role="note">{{ one }}</p>
      </section>
      <StageTable :shown="shown" />
      <section class="card" aria-labelledby="needs-title">
        <h2 id="needs-title">Needed in two weeks</h2>
        <p>{{ shown.waste }}.</p>
        <table>
          <tbody>
            <tr v-for="one in shown.needs" :key="`${one.day} ${one.what}`">
              <th scope="row">{{ one.day_words }}</th>
              <td>{{ one.what }}</td>
              <td class="number">{{ one.litres }}</td>
            </tr>
          </tbody>
        </table>
        <p class="note">Salt water that stands mixed is taken off; natural seawater needs none.</p>
      </section>
    </div>
    <div class="parts">
      <UnitFields v-model="form" :unit="shown.temperature_unit" :wrong="wrong" />
      <div class="acts">
        <v-btn type="submit" :loading="busy" :disabled="!draft.dirty.value">Save</v-btn>
        <v-btn variant="text" :disabled="!draft.dirty.value" @click="draft.restart()">Discard</v-btn>
      </div>
      <p class="note">
        The line to the unit can flood a room: a leak sensor beneath it, the tap closed when nobody is at
        home, and connections as the local plumbing code asks.
      </p>
    </div>
  </form>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 24px;
  align-items: start;
}
.parts {
  display: grid;
  gap: 16px;
}
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 400;
  white-space: nowrap;
  padding: 3px 12px 3px 0;
}
td.number {
  text-align: right;
  font-weight: 600;
  white-space: nowrap;
}
.acts {
  display: flex;
  gap: 8px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
