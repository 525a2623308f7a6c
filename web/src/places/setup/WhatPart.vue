<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import type { SetupModel } from './useSetup'
import DateField from '../../parts/DateField.vue'

/** Name, stock, stage and panels. */
const props = defineProps<{ set: SetupModel; setup: Schemas['SetupAnswer']; fresh: boolean }>()
const form = props.set.form
const stages = [
  { title: 'running', value: 'running' },
  { title: 'cycling', value: 'breaking_in' },
]
</script>

<template>
  <div class="fields">
    <FieldText v-model="form.name" label="Name" type="text" :error="set.wrong('name')" :autofocus="fresh" />
    <FieldText v-model="form.stock" label="What lives in it" type="text" :error="set.wrong('stock')" />
    <v-select v-model="form.stage" :items="stages" label="Stage" />
    <DateField v-model="form.started_on" label="Started on" :error="set.wrong('started_on')" />
    <v-select v-model="form.panel" :items="['glass', 'acrylic']" label="Panels" />
  </div>
  <fieldset class="ticks">
    <legend class="soft">Panels you keep clean; the others are left to coralline algae</legend>
    <label v-for="panel in setup.panels" :key="panel">
      <input v-model="form.clean_panels" type="checkbox" :value="panel" /> {{ panel }}
    </label>
  </fieldset>
  <p v-if="form.panel === 'acrylic'" class="note">
    Acrylic scratches: only acrylic-safe pads, no blade, and no grain of sand in the pad.
  </p>
</template>
