<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import Working from '../../parts/Working.vue'
import { sizesTyped } from './setupForm'
import type { SetupModel } from './useSetup'

/** Display, rock, sand and sump, with the net volume while typing; or the volume as a salt addition measured it. */
const props = defineProps<{ set: SetupModel; setup: Schemas['SetupAnswer'] }>()
const form = props.set.form
const working = ref(false)
const shapes = props.setup.shapes.map((one) => ({ title: one.name, value: one.key }))
const shape = computed(() => props.setup.shapes.find((one) => one.key === form.shape))
const measures = computed(() => shape.value?.measures ?? [])
const salts = props.setup.salts.map((one) => ({ title: one.name, value: one.share.toFixed(3) }))
const SUMP = { length_cm: 'Sump length', width_cm: 'Sump width', depth_cm: 'Its water, running' }
const unfinished = computed(() => form.bySalt && !sizesTyped(props.setup, form))
const ppt = props.setup.units.salinity
</script>

<template>
  <div class="fields">
    <v-select v-model="form.shape" :items="shapes" label="Shape of the display" />
    <FieldText
      v-for="one in measures"
      :key="one.field"
      v-model="form.size[one.field]!"
      :label="one.name"
      :unit="one.unit"
      :error="set.wrongSize(one.field)"
    />
    <FieldText
      v-if="shape?.deep"
      v-model="form.size.depth_cm!"
      label="Water depth, return running"
      unit="cm"
      :error="set.wrongSize('depth_cm')"
    />
    <FieldText
      v-model="form.size.sand_bed_cm!"
      label="Sand bed"
      unit="cm"
      :error="set.wrongSize('sand_bed_cm')"
    />
    <FieldText
      v-if="shape?.deep && form.reckon"
      v-model="form.size.rock_kg!"
      label="Rock, dry"
      unit="kg"
      :error="set.wrongSize('rock_kg')"
    />
    <FieldText
      v-else-if="shape?.deep"
      v-model="form.size.displaced_l!"
      label="Displaced by rock and sand"
      unit="L"
      :error="set.wrongSize('displaced_l')"
    />
    <FieldText
      v-model="form.size.sump_l!"
      :label="form.sumpBox ? 'Refugium and chambers beside' : 'Sump while running'"
      unit="L"
      :error="set.wrongSize('sump_l')"
    />
    <template v-if="form.sumpBox">
      <FieldText
        v-for="(label, key) in SUMP"
        :key="key"
        v-model="form.sump[key]!"
        :label="label"
        unit="cm"
        :error="set.wrongSize(`sump.${key}`)"
      />
    </template>
  </div>
  <div class="ticks">
    <label
      ><input v-model="form.reckon" type="checkbox" /> calculate rock and sand from weight and depth</label
    >
    <label><input v-model="form.sumpBox" type="checkbox" /> calculate the sump from its dimensions</label>
    <label><input v-model="form.bySalt" type="checkbox" /> measured by a salt addition</label>
  </div>
  <p v-if="!shape?.deep" class="note">
    A rough figure: 85 % of the litres it is sold by. The inside dimensions, or a salt addition, make it
    exact, and give a mark for the tape.
  </p>
  <div v-if="form.bySalt" class="fields">
    <FieldText
      v-model="form.salt.mass_g!"
      label="Salt added, dissolved first"
      unit="g"
      :error="set.wrongSize('salt_test.mass_g')"
    />
    <FieldText
      v-model="form.salt.salinity_before!"
      label="Salinity before"
      :unit="ppt"
      :error="set.wrongSize('salt_test.salinity_before')"
    />
    <FieldText
      v-model="form.salt.salinity_after!"
      label="After, well mixed"
      :unit="ppt"
      :error="set.wrongSize('salt_test.salinity_after')"
    />
    <v-select v-if="salts.length" v-model="form.salt.sea_salt_share" :items="salts" label="Of this salt" />
    <p class="note wide">
      The measured volume counts; the dimensions above are still used for the marks on the glass. With animals
      inside: dissolved, over days, within the daily limit. Never dry salt.
    </p>
  </div>
  <p class="net" aria-live="polite">
    <template v-if="set.volume.result.value">
      <b>{{ set.volume.result.value.volume.text }}</b>{{ ' '
      }}<span class="unit">{{ set.volume.result.value.volume.unit }} net</span>
      <button class="plain-link" type="button" :aria-expanded="working" @click="working = !working">
        show working
      </button>
      <span v-if="unfinished" class="note"> from the dimensions, until the salt addition is filled in</span>
    </template>
    <span v-else class="note">The net volume appears once the dimensions are entered.</span>
  </p>
  <Working v-if="working && set.volume.result.value" :steps="set.volume.result.value.working" />
  <fieldset v-if="set.resized.value" class="ticks">
    <legend>The volume has changed</legend>
    <label><input v-model="form.always" type="radio" :value="false" /> from now on; past volumes stay</label>
    <label
      ><input v-model="form.always" type="radio" :value="true" /> it was always so, only measured
      wrongly</label
    >
  </fieldset>
</template>

<style scoped>
.net b {
  font-size: 1.6rem;
}
.net .plain-link {
  margin-left: 14px;
}
</style>
