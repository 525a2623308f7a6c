<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Schemas } from '../../api/client'
import WaterWords from './WaterWords.vue'
import type { RequestProps } from './requestProps'
import DateField from '../../parts/DateField.vue'
import MeasureInput from '../../parts/MeasureInput.vue'

const props = defineProps<RequestProps>()
/* The request is the planner's own reactive object; the sentence edits it in place. */
const request = computed(() => props.request)
const target = (name: 'salinity' | 'alkalinity') => ({
  get: () => request.value[name] ?? '',
  set: (value: string | number) => (request.value[name] = value === '' ? null : (value as number)),
})
const salinity = computed(target('salinity'))
const alkalinity = computed(target('alkalinity'))
const FIELDS = [
  ...[
    'purpose',
    'parameter',
    'target',
    'left_percent',
    'salinity',
    'alkalinity',
    'fraction_percent',
    'every_days',
  ],
  ...[
    'start',
    'emergency',
    'salt_id',
    'water',
    'batch_id',
    'source_id',
    'water_salinity',
    'water_alkalinity',
  ],
]
const problems = computed(() => [...new Set(FIELDS.map(props.wrong).filter(Boolean))])
const aimed = computed(() => ['bring', 'restore', 'first'].includes(request.value.purpose ?? ''))
const aim = computed(() => props.offer.aims.find((one) => one.parameter === request.value.parameter))
const mixed = computed(() => (request.value.water ?? 'mix') === 'mix')
const purposes = computed(() => new Map(props.offer.purposes.map((one) => [one.key, one])))

watch(
  () => request.value.purpose,
  (purpose) => {
    const start = purposes.value.get(purpose ?? 'routine')
    if (!start) return
    request.value.fraction_percent = start.fraction_percent
    request.value.left_percent = start.left_percent
    request.value.start = start.start
    request.value.parameter = start.parameter
    request.value.target = start.target
  },
)
function choose(parameter: Schemas['Parameter']) {
  const found = props.offer.aims.find((one) => one.parameter === parameter) ?? props.offer.aims[0]
  request.value.parameter = found?.parameter ?? null
  request.value.target = found?.target ?? null
}
</script>

<template>
  <div class="card sentence">
    <p>
      <select v-model="request.purpose" aria-label="Purpose" :aria-invalid="!!wrong('purpose')">
        <option v-for="one in offer.purposes" :key="one.key" :value="one.key">{{ one.name }}</option></select
      ><template v-if="aimed"
        >:
        <select
          :value="request.parameter"
          aria-label="Parameter"
          @change="choose(($event.target as HTMLSelectElement).value as Schemas['Parameter'])"
        >
          <option v-for="one in offer.aims" :key="one.parameter" :value="one.parameter">
            {{ one.name }}
          </option>
        </select>
        from {{ aim?.now ?? 'unknown' }} to
        <MeasureInput v-model="request.target" label="Target" :wrong="!!wrong('target')" wide />
        {{ aim?.unit }}</template
      ><template v-if="request.purpose === 'dilute'">
        until
        <MeasureInput
          v-model="request.left_percent"
          label="Percent that may be left"
          :wrong="!!wrong('left_percent')"
        />
        % of it is left</template
      ><template v-if="mixed"
        >; salinity to
        <MeasureInput v-model="salinity" label="Target salinity" :wrong="!!wrong('salinity')" wide />
        {{ offer.salinity_unit }}</template
      ><template v-if="request.purpose !== 'salinity' || !mixed"
        >{{ mixed ? ' and' : ';' }} alkalinity to
        <MeasureInput v-model="alkalinity" label="Target alkalinity" :wrong="!!wrong('alkalinity')" wide />
        {{ offer.alkalinity_unit }} by
        <select v-model="request.source" aria-label="Additive for alkalinity">
          <option v-for="one in offer.sources" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select></template
      >. With <WaterWords :offer="offer" :request="request" :wrong="wrong" />,
      {{ aimed || ['dilute', 'salinity'].includes(request.purpose ?? '') ? 'changing at most' : 'changing' }}
      <MeasureInput
        v-model="request.fraction_percent"
        label="Size in percent"
        :wrong="!!wrong('fraction_percent')"
      />
      % on
      <DateField v-model="request.start" inline ahead label="First day" :error="wrong('start')" />
      and again every
      <MeasureInput
        v-model="request.every_days"
        label="Days between changes"
        :wrong="!!wrong('every_days')"
      />
      days if needed<template v-if="offer.can_siphon"
        >, the sand
        <select v-model="request.siphon" aria-label="Sand">
          <option :value="true">siphoned</option>
          <option :value="false">left alone</option>
        </select></template
      ><template v-if="offer.needs_emergency || request.purpose === 'dilute'"
        >, because
        <select v-model="request.emergency" aria-label="Danger" :aria-invalid="!!wrong('emergency')">
          <option :value="null">no danger is named</option>
          <option v-for="one in offer.emergencies" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select></template
      >.
    </p>
    <p v-for="problem in problems" :key="problem" class="magenta small" role="alert">{{ problem }}</p>
  </div>
</template>
