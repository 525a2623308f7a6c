<script setup lang="ts">
import { useRouter } from 'vue-router'
import DraftNote from '../../parts/DraftNote.vue'
import HeatFields from './HeatFields.vue'
import LevelFields from './LevelFields.vue'
import SystemDrawing from './SystemDrawing.vue'
import TopOffFields from './TopOffFields.vue'
import WhatFollows from './WhatFollows.vue'
import { type Installation, useInstallation } from './useInstallation'

/** The fields of the installation beside its drawing, and what follows from them. */
const props = defineProps<{ system: number; stored: Installation }>()
const { form, draft, board, drawn, busy, wrong, save } = useInstallation(props.system, props.stored)
const router = useRouter()
async function keep() {
  if (await save()) await router.push({ name: 'failures', params: { system: props.system } })
}
</script>

<template>
  <DraftNote :draft="draft" />
  <form class="columns" @submit.prevent="keep">
    <div class="parts">
      <SystemDrawing v-if="drawn" v-model="form.levels!" :drawing="drawn.drawing" :top-off="form.top_off!" />
      <LevelFields v-model="form.levels!" :drawing="drawn?.drawing" :wrong="wrong" />
      <TopOffFields
        v-model="form.top_off!"
        :senses="drawn?.senses ?? []"
        :cut-offs="drawn?.cut_offs ?? []"
        :wrong="wrong"
      />
      <HeatFields
        v-model="form.heating!"
        :lids="drawn?.lids ?? []"
        :unit="drawn?.temperature_unit ?? ''"
        :wrong="wrong"
      />
    </div>
    <aside>
      <WhatFollows :board="board" />
      <div class="acts">
        <v-btn type="submit" :loading="busy" :disabled="!draft.dirty.value">Save</v-btn>
        <v-btn variant="text" :disabled="!draft.dirty.value" @click="draft.restart()">Discard</v-btn>
      </div>
    </aside>
  </form>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 330px);
  gap: 24px;
  align-items: start;
}
.parts {
  display: grid;
  gap: 16px;
}
aside {
  position: sticky;
  top: 72px;
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 12px;
}
.parts :deep(fieldset) {
  padding: 14px 16px;
  min-width: 0;
}
.parts :deep(legend) {
  font-weight: 600;
  font-size: 1.1rem;
  float: left;
  width: 100%;
  margin-bottom: 10px;
}
.parts :deep(.fields) {
  clear: both;
}
.parts :deep(.tick) {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 40px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  aside {
    position: static;
  }
}
</style>
