<script setup lang="ts">
import { reactive, ref } from 'vue'
import { answer, api, type ProblemError, type Schemas, refusal } from '../../api/client'
import { useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { typed } from '../../parts/numbers'
import { useNotices } from '../../parts/notices'

/** Hoses and pumps of this system, kept with it; its levels have a drawing of their own. */
const props = defineProps<{ system: number; service: Schemas['ServiceBody'] }>()
const emit = defineEmits<{ kept: [] }>()
const FIELDS: [keyof Schemas['ServiceBody'], string, string][] = [
  ['bore_mm', 'Drain hose, bore', 'mm'],
  ['hose_m', 'Drain hose, length', 'm'],
  ['head_cm', 'From the surface down to its outlet', 'cm'],
  ['pump_l_h', 'Filling pump, real flow (0: by bucket)', 'L/h'],
  ['heater_w', "New water's heater", 'W'],
]
const form = reactive<Record<string, string>>(
  Object.fromEntries(FIELDS.map(([key]) => [key, String(props.service[key] ?? '')])),
)
const refused = ref<ProblemError>()
const busy = ref(false)
const refresh = useRefresh()
const notices = useNotices()

async function keep() {
  busy.value = true
  refused.value = undefined
  try {
    const typedNow = FIELDS.map(([key]) => [key, form[key]!.trim() === '' ? null : typed(form[key]!)])
    const body = { ...props.service, ...Object.fromEntries(typedNow) } as Schemas['ServiceBody']
    await answer(
      api.PUT('/api/systems/{system_id}/service', { params: { path: { system_id: props.system } }, body }),
    )
    notices.say('Hoses and pumps saved.')
    await refresh()
    emit('kept')
  } catch (fault) {
    refused.value = refusal(fault)
    if (!refused.value.problem.fields.length) notices.fail(refused.value)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form @submit.prevent="keep">
    <div class="fields">
      <FieldText
        v-for="[key, name, unit] in FIELDS"
        :key="key"
        v-model="form[key]!"
        :label="name"
        :unit="unit"
        :error="refused?.at(key)"
      />
    </div>
    <p class="note">
      What runs back and whether the sump holds it follow from the
      <router-link :to="{ name: 'installation', params: { system } }">levels of display and sump</router-link
      >.
    </p>
    <v-btn type="submit" size="small" :loading="busy" class="mt-2">Save</v-btn>
  </form>
</template>
