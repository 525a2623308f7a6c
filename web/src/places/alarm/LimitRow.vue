<script setup lang="ts">
import type { Schemas } from '../../api/client'
import NumberField from '../failure/NumberField.vue'
import type { LimitForm } from './useLimits'

/** One signal: whether it is watched, its limits, and what its sensors say now. */
const model = defineModel<LimitForm>({ required: true })
defineProps<{ signal: Schemas['SignalShown']; wrong: (field: string) => string | undefined }>()
const emit = defineEmits<{ forget: [sensor: string] }>()
</script>

<template>
  <div class="row">
    <label class="tick"><input v-model="model.on" type="checkbox" /> {{ signal.name }}</label>
    <div class="heard">
      <p v-for="one in signal.sensors" :key="one.sensor" :class="{ magenta: one.beyond && model.on }">
        {{ one.words }}
        <button
          type="button"
          class="plain-link"
          :aria-label="`Remove ${one.sensor} of ${signal.name}`"
          @click="emit('forget', one.sensor)"
        >
          remove
        </button>
      </p>
      <p v-if="signal.nothing" class="note">{{ signal.nothing }}</p>
    </div>
    <div v-if="model.on" class="fields" role="group" :aria-label="`Limits of ${signal.name}`">
      <template v-if="!signal.contact">
        <NumberField v-model="model.limit.low" label="Below" :unit="signal.unit" :error="wrong('low')" />
        <NumberField v-model="model.limit.high" label="Above" :unit="signal.unit" :error="wrong('high')" />
        <NumberField
          v-model="model.limit.back"
          label="Over when back by"
          :unit="signal.unit"
          zero
          :error="wrong('back')"
        />
      </template>
      <NumberField
        v-model="model.limit.hold_min"
        label="Counts after"
        unit="min"
        zero
        :error="wrong('hold_min')"
      />
      <label class="tick"><input v-model="model.limit.wakes" type="checkbox" /> also in quiet hours</label>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
  gap: 4px 16px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.fields {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
  gap: 12px 14px;
  padding-left: 28px;
}
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 36px;
}
.heard {
  align-self: center;
}
@media (max-width: 600px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
  }
  .fields {
    padding: 8px 0 0;
    grid-template-columns: 1fr 1fr;
  }
}
</style>
