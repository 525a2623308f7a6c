<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { lightQuery, livestockQuery } from '../../api/queries'
import BandTable from './BandTable.vue'
import GearPart from './GearPart.vue'
import HistoryPart from './HistoryPart.vue'
import KeepingPart from './KeepingPart.vue'
import LightPart from './LightPart.vue'
import LivestockPart from './LivestockPart.vue'
import RuleList from './RuleList.vue'
import MethodTable from './MethodTable.vue'
import DraftNote from '../../parts/DraftNote.vue'
import FoldSection from '../../parts/FoldSection.vue'
import SizePart from './SizePart.vue'
import WhatPart from './WhatPart.vue'
import { linesOf, sectionOf, SECTIONS } from './sections'
import { useSetup } from './useSetup'

const props = defineProps<{ setup: Schemas['SetupAnswer']; system?: Schemas['SystemAnswer'] }>()
const set = useSetup(props.setup, props.system)
const open = ref<string[]>(props.system ? [] : ['what'])
const id = props.system?.id ?? 0
const livestock = useQuery({ ...livestockQuery(id), enabled: !!id })
const light = useQuery({ ...lightQuery(id), enabled: !!id })
const lines = computed<Record<string, string>>(() => ({
  ...linesOf(props.setup, set.form, set.volume.result.value),
  livestock: livestock.data.value?.animals.map((one) => `${one.count} ${one.name}`).join(', ') || 'none yet',
  light: light.data.value?.words || 'not entered yet',
}))
const shown = computed(() => SECTIONS.filter((one) => props.system || !one.stored))
const wrong = computed(
  () => new Set((set.refused.value?.problem.fields ?? []).map((item) => sectionOf(item.field))),
)
const isOpen = (key: string) => open.value.includes(key)
function toggle(key: string) {
  open.value = isOpen(key) ? open.value.filter((one) => one !== key) : [...open.value, key]
}
function goOn(key: string) {
  const next = shown.value[shown.value.findIndex((one) => one.key === key) + 1]
  open.value = [...open.value.filter((one) => one !== key), ...(next ? [next.key] : [])]
}
async function keep() {
  await set.keep()
  // What was refused is shown where it stands.
  open.value = [...new Set([...open.value, ...wrong.value])]
}
</script>

<template>
  <div class="page-head">
    <h1>{{ system ? `Set-up, ${system.name}` : 'A new system' }}</h1>
    <span v-if="!system" class="soft">seven short parts; you can change any of them later</span>
  </div>
  <DraftNote :draft="set.draft" />
  <form novalidate @submit.prevent="keep">
    <FoldSection
      v-for="(one, index) in shown"
      :key="one.key"
      :number="index + 1"
      :title="one.title"
      :line="lines[one.key] ?? ''"
      :open="isOpen(one.key)"
      :wrong="wrong.has(one.key)"
      :last="index === shown.length - 1 || !!system"
      @toggle="toggle(one.key)"
      @next="goOn(one.key)"
    >
      <WhatPart v-if="one.key === 'what'" :set="set" :setup="setup" :fresh="!system" />
      <SizePart v-else-if="one.key === 'size'" :set="set" :setup="setup" />
      <KeepingPart v-else-if="one.key === 'keeping'" :set="set" :setup="setup" />
      <MethodTable v-else-if="one.key === 'methods'" :set="set" :setup="setup" :stored="system?.methods" />
      <GearPart v-else-if="one.key === 'gear'" :set="set" :setup="setup" />
      <KeepingPart v-else-if="one.key === 'limits'" :set="set" :setup="setup" limits />
      <BandTable
        v-else-if="one.key === 'bands'"
        :setup="setup"
        :bands="set.form.bands"
        :usual="system?.usual_aims ?? {}"
        :wrong="set.wrong"
        @preset="set.usePreset"
      />
      <LivestockPart v-else-if="one.key === 'livestock'" :system="system!.id" />
      <LightPart v-else-if="one.key === 'light'" :system="system!.id" />
      <RuleList v-else-if="one.key === 'rules'" :system="system!.id" />
      <HistoryPart v-else :system="system!" />
    </FoldSection>
    <div class="ways">
      <p v-if="set.refused.value" class="magenta" role="alert">{{ set.refused.value.message }}</p>
      <v-btn type="submit" variant="flat" :loading="set.busy.value">{{
        system ? 'Save changes' : 'Set up'
      }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  max-width: 1080px;
}
.ways {
  display: grid;
  gap: 10px;
  justify-items: start;
  position: sticky;
  bottom: 0;
  padding: 10px 0;
  background: var(--paper);
}
@media (max-width: 900px) {
  .ways {
    bottom: 50px;
  }
}
</style>
