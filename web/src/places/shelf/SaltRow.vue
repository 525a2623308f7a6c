<script setup lang="ts">
import { reactive, ref } from 'vue'
import { api, type Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'
import SaltLabel from '../../parts/SaltLabel.vue'
import type { Shelf } from './useShelf'

/** One salt: what plans take it for, its bucket, and what its batches came out as. */
const props = defineProps<{ one: Schemas['SaltShown']; data: Schemas['ShelfAnswer']; acts: Shelf }>()
const open = ref<'label' | 'batch' | 'bucket'>()
const batch = reactive({ salinity: '', mass: '', volume: '', holds: {} as Record<string, string> })
const bucket = reactive({ mass: '', lot: '' })
const place = `salt-${props.one.id}`
const wrong = (field: string) => props.acts.wrong(place, field)
const path = { salt_id: props.one.id }
function toggle(way: 'label' | 'batch' | 'bucket') {
  open.value = open.value === way ? undefined : way
}
async function keepBatch() {
  const body = {
    salinity: batch.salinity,
    holds: batch.holds,
    mass_g: batch.mass.trim() ? typed(batch.mass) : null,
    volume_l: batch.volume.trim() ? typed(batch.volume) : null,
  }
  const kept = await props.acts.send(
    place,
    (header) => api.POST('/api/salts/{salt_id}/batches', { params: { path, header }, body }),
    true,
  )
  if (kept) open.value = undefined
}
async function keepBucket() {
  const body = { mass_kg: typed(bucket.mass), lot: bucket.lot }
  const kept = await props.acts.send(
    place,
    (header) => api.POST('/api/salts/{salt_id}/buckets', { params: { path, header }, body }),
    true,
  )
  if (kept) open.value = undefined
}
const usual = () =>
  props.acts.send(place, (header) => api.POST('/api/salts/{salt_id}/usual', { params: { path, header } }))
</script>

<template>
  <li>
    <div class="head">
      <b>{{ one.name }}</b>
      <span v-if="one.usual" class="soft">your usual salt</span>
      <button v-else class="plain-link" type="button" @click="usual">make this the usual salt</button>
      <span class="grow" />
      <button class="plain-link" type="button" :aria-expanded="open === 'batch'" @click="toggle('batch')">
        Enter a measured batch
      </button>
      <button class="plain-link" type="button" :aria-expanded="open === 'bucket'" @click="toggle('bucket')">
        new bucket
      </button>
      <button class="plain-link" type="button" :aria-expanded="open === 'label'" @click="toggle('label')">
        label
      </button>
      <button class="plain-link" type="button" @click="acts.away('salt', one.id, one.name)">remove</button>
    </div>
    <p>
      {{ one.strength_g_l }} g per litre of {{ one.basis === 'fresh_water' ? 'fresh' : 'finished' }} water
      <template v-if="one.strength"> · measured {{ one.strength }}</template>
    </p>
    <p class="soft">
      {{ one.holds.join(' · ') || 'its label does not say what it holds' }}
      <template v-if="one.holds.length"> ({{ one.holds_from }})</template>
      <template v-if="one.bucket"> · {{ one.bucket }}</template>
    </p>
    <div v-if="open === 'batch'" class="fields" role="group" :aria-label="`A batch of ${one.name}`">
      <FieldText v-model="batch.salinity" label="Salinity, measured" type="text" :error="wrong('salinity')" />
      <FieldText v-model="batch.mass" label="Salt weighed in" unit="g" :error="wrong('mass_g')" />
      <FieldText v-model="batch.volume" label="Finished water" unit="L" :error="wrong('volume_l')" />
      <FieldText
        v-for="row in data.printed.slice(0, 3)"
        :key="row.key"
        v-model="batch.holds[row.key]!"
        :label="row.name"
        :unit="row.remark"
        :error="wrong(`holds.${row.key}`)"
      />
      <v-btn size="small" @click="keepBatch">Save the batch</v-btn>
    </div>
    <div v-if="open === 'bucket'" class="fields" role="group" :aria-label="`A bucket of ${one.name}`">
      <FieldText v-model="bucket.mass" label="It holds" unit="kg" :error="wrong('mass_kg')" />
      <FieldText v-model="bucket.lot" label="Lot, if printed" type="text" />
      <v-btn size="small" @click="keepBucket">Open this bucket</v-btn>
      <p class="note">The previous bucket counts as empty; the new one's strength is learned from scratch.</p>
    </div>
    <SaltLabel v-if="open === 'label'" :one="one" @done="open = undefined" />
  </li>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
.fields {
  margin: 10px 0 4px;
}
</style>
