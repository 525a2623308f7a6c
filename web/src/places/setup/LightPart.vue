<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { reactive, ref, watch } from 'vue'
import { api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { lightQuery, useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { useNotices } from '../../parts/notices'
import { typed } from '../../parts/numbers'
import DateField from '../../parts/DateField.vue'
import TimeField from '../../parts/TimeField.vue'

/** Light as a managed quantity: the setting with its day, earlier ones, and PAR at named points. */
const props = defineProps<{ system: number }>()
const { data } = useQuery(() => lightQuery(props.system))
const notices = useNotices()
const refresh = useRefresh()
const refused = ref<ProblemError>()
const wrong = (field: string) => refused.value?.at(field)
const path = { system_id: props.system }
const form = reactive({ on: '', off: '', ramp: '', spectrum: '', since: '' })
const par = reactive({ point: '', umol: '' })
// Once: what is being typed is not to be overtaken by a later answer.
const filled = ref(false)
watch(
  () => data.value?.now,
  (now) => {
    if (!now || filled.value) return
    filled.value = true
    Object.assign(form, {
      on: now.on,
      off: now.off,
      ramp: String(now.ramp_minutes ?? 0),
      spectrum: now.spectrum,
    })
  },
  { immediate: true },
)
async function attempt(act: () => Promise<Schemas['Recorded']>): Promise<boolean> {
  refused.value = undefined
  try {
    notices.recorded(await act())
    await refresh()
    return true
  } catch (fault) {
    refused.value = refusal(fault)
    return false
  }
}
const set = () =>
  attempt(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/light', {
        params: { path, header },
        body: {
          on: form.on,
          off: form.off,
          ramp_minutes: typed(form.ramp || '0'),
          spectrum: form.spectrum,
          since: form.since,
        },
      }),
    ),
  )
async function measure() {
  const body = { point: par.point, umol: typed(par.umol), day: '' }
  const kept = await attempt(() =>
    command((header) => api.POST('/api/systems/{system_id}/light/par', { params: { path, header }, body })),
  )
  if (kept) par.umol = ''
}
</script>

<template>
  <template v-if="data">
    <p v-if="!data.now" class="note">
      Not entered yet. A change of light explains later changes, so its date is recorded.
    </p>
    <div role="group" aria-label="Light from a day on" class="fields" @keydown.enter.stop.prevent="set">
      <TimeField v-model="form.on" label="On" :error="wrong('on')" />
      <TimeField v-model="form.off" label="Off" :error="wrong('off')" />
      <FieldText v-model="form.ramp" label="Ramp at each end" unit="min" :error="wrong('ramp_minutes')" />
      <FieldText v-model="form.spectrum" label="Spectrum, in your words" type="text" />
      <DateField v-model="form.since" label="From (empty: today)" :error="wrong('since')" />
      <v-btn variant="outlined" size="small" class="keep" @click="set">Set the light</v-btn>
    </div>
    <ul class="dated">
      <li v-for="one in data.settings" :key="one.day + one.words">
        <span class="soft">{{ one.day }}</span> {{ one.words }}
      </li>
    </ul>
    <div role="group" aria-label="PAR at a point" class="fields" @keydown.enter.stop.prevent="measure">
      <FieldText v-model="par.point" label="PAR at the point" type="text" :error="wrong('point')" />
      <FieldText v-model="par.umol" label="It reads" unit="µmol/m²/s" :error="wrong('umol')" />
      <v-btn variant="outlined" size="small" class="keep" @click="measure">Save the reading</v-btn>
    </div>
    <ul class="dated">
      <li v-for="one in data.points" :key="one.point">
        <b>{{ one.point }}</b>
        <span v-for="(each, index) in one.readings.slice(0, 5)" :key="index" :class="{ soft: index > 0 }"
          >{{ each.words }}, {{ each.day }}</span
        >
      </li>
    </ul>
  </template>
</template>

<style scoped>
.dated {
  list-style: none;
  padding: 0;
  font-size: 0.92rem;
}
.dated li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
.keep {
  justify-self: start;
  margin-top: 8px;
}
</style>
