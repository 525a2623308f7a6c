<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import DraftNote from '../../parts/DraftNote.vue'
import ControllerPart from './ControllerPart.vue'
import LimitRow from './LimitRow.vue'
import { useLimits } from './useLimits'

/** The limits of a tank: those that are watched, and what else could be. */
const props = defineProps<{ id: number; stored: Schemas['SystemAlarms'] }>()
const { form, draft, busy, wrong, save, forget, newAddress } = useLimits(props.id, props.stored)
const all = ref(false)
const shown = computed(() =>
  form.rows
    .map((row, at) => ({ row, at, signal: props.stored.signals[at]! }))
    .filter(({ row, signal }) => all.value || row.on || signal.sensors.length || !signal.contact),
)
</script>

<template>
  <DraftNote :draft="draft" />
  <form @submit.prevent="save">
    <section class="card" aria-labelledby="watched-title">
      <h2 id="watched-title">What is watched</h2>
      <LimitRow
        v-for="{ row, at, signal } in shown"
        :key="signal.signal"
        v-model="form.rows[at]!"
        :signal="signal"
        :wrong="(field: string) => wrong(row.limit.signal, field)"
        @forget="(sensor: string) => forget(signal.signal, sensor)"
      />
      <button v-if="!all" type="button" class="plain-link more" @click="all = true">
        Leak sensors, floats, flow and mains
      </button>
    </section>
    <ControllerPart v-model="form.url" :stored="stored" :error="wrong('', 'url')" @address="newAddress" />
    <div class="acts">
      <v-btn type="submit" :loading="busy" :disabled="!draft.dirty.value">Save</v-btn>
      <v-btn variant="text" :disabled="!draft.dirty.value" @click="draft.restart()">Discard</v-btn>
    </div>
    <p class="note">
      An alarm only tells. What must not happen needs a cut-off of its own: a second thermostat, a float
      valve, a leak valve. Mains wiring and plumbing as local codes ask, by those licensed for it.
    </p>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 16px;
}
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
.more {
  margin-top: 10px;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
