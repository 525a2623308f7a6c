<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { answer, api, type Schemas } from '../../api/client'
import { keeperQuery, useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import { presetBody } from '../setup/settings'
import PresetChoice from '../../parts/PresetChoice.vue'

/** The units the keeper thinks in, chosen before the first number is typed. */
const { data } = useQuery(keeperQuery)
const notices = useNotices()
const refresh = useRefresh()
const busy = ref(false)
const taken = (preset: Schemas['PresetShown']) =>
  data.value?.volume === preset.volume && data.value.gallon === preset.gallon

async function take(preset: Schemas['PresetShown']) {
  busy.value = true
  try {
    await answer(api.PUT('/api/keeper', { body: { ...presetBody(preset), zone: data.value!.zone } }))
    await refresh()
  } catch (fault) {
    notices.fail(fault)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <PresetChoice v-if="data" :presets="data.presets" :taken="taken" :busy="busy" @take="take" />
</template>
