<script setup lang="ts">
import { computed, reactive } from 'vue'
import type { Schemas } from '../../api/client'
import { typed, weekOrder } from '../../parts/numbers'
import type { Upkeep } from '../../parts/useUpkeep'

/** How this system keeps a task: what is left empty follows the kind of task. */
const props = defineProps<{ task: Schemas['TaskFull']; upkeep: Upkeep }>()
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const text = (value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(value)
const own = reactive({
  off: props.task.choice.off,
  every: text(props.task.choice.every_days),
  minutes: text(props.task.choice.minutes),
  weekdays: [...(props.task.choice.weekdays ?? [])],
  zones: (props.task.choice.zones ?? props.task.usual_zones).join(', '),
  limit: text(props.task.choice.limit),
})
const wrong = props.upkeep.wrong
const number = (value: string) => (value.trim() ? typed(value) : null)
const zones = computed(() => {
  const named = own.zones
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean)
  return named.join() === props.task.usual_zones.join() ? null : named
})
const keep = () =>
  props.upkeep.choose(
    props.task.task,
    {
      off: own.off,
      every_days: own.every.trim() ? Math.round(typed(own.every)) : null,
      minutes: number(own.minutes),
      weekdays: own.weekdays,
      zones: zones.value,
      limit: number(own.limit),
    },
    props.task.choice,
  )
</script>

<template>
  <form class="choice" @submit.prevent="keep">
    <h2>Your settings for this task</h2>
    <v-text-field
      v-model="own.every"
      label="Every"
      suffix="days"
      :placeholder="String(task.usual_days)"
      persistent-placeholder
      inputmode="numeric"
      :error-messages="wrong('every_days')"
    />
    <v-text-field
      v-model="own.minutes"
      label="Takes"
      suffix="min"
      :placeholder="String(task.usual_minutes)"
      persistent-placeholder
      inputmode="decimal"
      :error-messages="wrong('minutes')"
    />
    <fieldset>
      <legend class="soft">Only on</legend>
      <label v-for="index in weekOrder()" :key="index"
        ><input v-model="own.weekdays" type="checkbox" :value="index" /> {{ DAYS[index] }}</label
      >
    </fieldset>
    <v-text-field
      v-if="task.usual_zones.length"
      v-model="own.zones"
      label="Parts, one after another"
      hint="separated by commas; leave blank for all at once"
      persistent-hint
      :error-messages="wrong('zones')"
    />
    <v-text-field
      v-if="task.limit_words"
      v-model="own.limit"
      :label="task.limit_words.split(':')[0] + ', due at'"
      :placeholder="task.usual_limit === null ? '' : String(task.usual_limit)"
      persistent-placeholder
      inputmode="decimal"
      :error-messages="wrong('limit')"
    />
    <label><input v-model="own.off" type="checkbox" /> not on the rota of this system</label>
    <v-btn type="submit" variant="flat" :loading="upkeep.busy.value">Save</v-btn>
  </form>
</template>

<style scoped>
.choice {
  display: grid;
  gap: 10px;
}
fieldset {
  border: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
}
</style>
