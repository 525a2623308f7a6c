<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import PictureInput from '../../parts/PictureInput.vue'
import { useReport } from './useReport'

/** The report of a visit to one system. What is typed is kept in this browser until it is sent. */
const props = defineProps<{ one: Schemas['SystemSheet']; token: string; today: string }>()
const report = useReport(props.token, props.one.system_id)
const { told, pictures, sent, problem, busy } = report
/** The work of the visit that is due: today's, or the nearest. */
const work = computed(() => {
  const away = (day: string) => Math.abs(Date.parse(day) - Date.parse(props.today))
  return [...props.one.visits].sort((one, other) => away(one.day) - away(other.day))[0]?.work ?? []
})
</script>

<template>
  <details class="no-print report">
    <summary>Report of a visit to {{ one.name }}</summary>
    <p v-if="sent" role="status" class="sent">{{ sent }}</p>
    <form @submit.prevent="report.send">
      <label v-for="each in work" :key="each.key" class="tick">
        <input v-model="told.done" type="checkbox" :value="each.key" />
        {{ each.name }}<span v-if="each.laid_out" class="soft"> ({{ each.laid_out }})</span>
      </label>
      <div class="fields">
        <v-text-field
          v-for="watch in one.watched"
          :key="watch.key"
          v-model="told.measured[watch.key]"
          :label="`${watch.name} reading`"
          :hint="watch.remark"
          persistent-hint
          inputmode="decimal"
          :error-messages="report.wrong(`measured.${watch.key}`)"
        />
      </div>
      <v-textarea v-model="told.found" label="What you found" rows="3" maxlength="1000" />
      <v-text-field v-model="told.used" label="What was used up" maxlength="300" />
      <v-textarea v-model="told.advised" label="What you would do" rows="2" maxlength="1000" />
      <p class="ways">
        <PictureInput
          label="take a picture"
          :name="`Picture of ${one.name}`"
          :busy="busy"
          many
          @files="report.bring"
        />
        <span v-if="pictures.length" class="soft">{{ pictures.length }} saved</span>
      </p>
      <p v-if="problem" role="alert" class="magenta">{{ problem }}</p>
      <v-btn type="submit" variant="flat" size="large" :loading="busy">Send the report</v-btn>
    </form>
  </details>
</template>

<style scoped>
.report {
  margin-top: 10px;
}
summary {
  font-weight: 700;
  padding: 8px 0;
  cursor: pointer;
}
form {
  display: grid;
  gap: 8px;
  max-width: 640px;
}
.tick {
  padding: 6px 0;
}
.ways {
  display: flex;
  gap: 14px;
}
.sent {
  border-left: 4px solid var(--deep);
  padding: 2px 12px;
}
</style>
