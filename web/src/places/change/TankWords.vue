<script setup lang="ts">
import { computed } from 'vue'
import MeasureInput from '../../parts/MeasureInput.vue'
import type { RequestProps } from './requestProps'

/** How it is drained and filled. */
const props = defineProps<RequestProps>()
const request = computed(() => props.request)
const problems = computed(() =>
  ['drain', 'litres', 'zones', 'keep_l', 'slow_days'].map(props.wrong).filter(Boolean),
)
</script>

<template>
  <div class="card sentence">
    <p>
      Drained
      <select v-model="request.straight" aria-label="How it is drained">
        <option :value="false">by buckets</option>
        <option :value="true">straight to the drain</option>
      </select>
      <template v-if="offer.has_sump">
        from the
        <select v-model="request.sump_falls" aria-label="What falls">
          <option :value="false">display</option>
          <option :value="true">sump</option>
        </select></template
      >
      at
      <select v-model="request.zones" aria-label="Zones">
        <option :value="1">one place</option>
        <option :value="2">two sides</option>
        <option v-for="count in [3, 4, 5, 6]" :key="count" :value="count">{{ count }} zones</option></select
      >, keeping
      <MeasureInput v-model="request.keep_l" unit="L" label="Water kept back" :wrong="!!wrong('keep_l')" />
      back for scrubbing rock; exchanged
      <select v-model="request.slow_days" aria-label="How fast">
        <option :value="0">at once</option>
        <option v-for="days in [1, 2, 3, 5, 7, 14, 30]" :key="days" :value="days">
          by a slow pump pair over {{ days }} d
        </option></select
      >.
    </p>
    <p v-for="problem in problems" :key="problem" class="magenta small" role="alert">{{ problem }}</p>
  </div>
</template>
