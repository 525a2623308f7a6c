<script setup lang="ts">
import { computed, watch } from 'vue'
import type { Schemas } from '../../api/client'
import WaterWords from './WaterWords.vue'
import type { RequestProps } from './requestProps'
import DateField from '../../parts/DateField.vue'

const props = defineProps<RequestProps>()
/* The request is the planner's own reactive object; the sentence edits it in place. */
const request = computed(() => props.request)
const target = (name: 'salinity' | 'alkalinity') => ({
  get: () => request.value[name] ?? '',
  set: (value: string | number) => (request.value[name] = value === '' ? null : Number(value)),
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
        <input
          v-model.number="request.target"
          type="number"
          step="any"
          aria-label="Target"
          :aria-invalid="!!wrong('target')"
        />
        {{ aim?.unit }}</template
      ><template v-if="request.purpose === 'dilute'">
        until
        <input
          v-model.number="request.left_percent"
          type="number"
          step="any"
          class="narrow"
          aria-label="Percent that may be left"
          :aria-invalid="!!wrong('left_percent')"
        />
        % of it is left</template
      ><template v-if="mixed"
        >; salinity to
        <input
          v-model="salinity"
          type="number"
          step="any"
          aria-label="Target salinity"
          :aria-invalid="!!wrong('salinity')"
        />
        {{ offer.salinity_unit }}</template
      ><template v-if="request.purpose !== 'salinity' || !mixed"
        >{{ mixed ? ' and' : ';' }} alkalinity to
        <input
          v-model="alkalinity"
          type="number"
          step="any"
          aria-label="Target alkalinity"
          :aria-invalid="!!wrong('alkalinity')"
        />
        {{ offer.alkalinity_unit }} by
        <select v-model="request.source" aria-label="Additive for alkalinity">
          <option v-for="one in offer.sources" :key="one.key" :value="one.key">{{ one.name }}</option>
        </select></template
      >. With <WaterWords :offer="offer" :request="request" :wrong="wrong" />,
      {{ aimed || ['dilute', 'salinity'].includes(request.purpose ?? '') ? 'changing at most' : 'changing' }}
      <input
        v-model.number="request.fraction_percent"
        type="number"
        step="any"
        min="1"
        aria-label="Size in percent"
        :aria-invalid="!!wrong('fraction_percent')"
        class="narrow"
      />
      % on
      <DateField v-model="request.start" inline ahead label="First day" :error="wrong('start')" />
      and again every
      <input
        v-model.number="request.every_days"
        type="number"
        min="1"
        aria-label="Days between changes"
        :aria-invalid="!!wrong('every_days')"
        class="narrow"
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
