<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { instrumentsQuery, purchasesQuery, shelfQuery } from '../../api/queries'
import FoldSection from '../../parts/FoldSection.vue'
import SaltLabel from '../../parts/SaltLabel.vue'
import ShelfHead from '../../parts/ShelfHead.vue'
import Waiting from '../../parts/Waiting.vue'
import AdditiveList from './AdditiveList.vue'
import FoodList from './FoodList.vue'
import InstrumentList from './InstrumentList.vue'
import PurchaseList from './PurchaseList.vue'
import SaltRow from './SaltRow.vue'
import { useShelf } from './useShelf'

const { data, error, refetch } = useQuery(shelfQuery)
const { data: measuring } = useQuery(instrumentsQuery)
const { data: buying } = useQuery(purchasesQuery)
const acts = useShelf()
const open = ref<string[]>(['salts'])
const adding = ref(false)
const names = (list?: { name: string }[]) =>
  [...new Set(list?.map((one) => one.name))].join(', ') || 'none yet'
const doubts = computed(() => measuring.value?.instruments.some((one) => one.expired) ?? false)
const stale = computed(() => data.value?.foods.some((one) => one.expired) ?? false)
const soon = computed(() => (buying.value ?? []).map((one) => one.words).join(', ') || 'nothing')
const isOpen = (key: string) => open.value.includes(key)
function toggle(key: string) {
  open.value = isOpen(key) ? open.value.filter((one) => one !== key) : [...open.value, key]
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data || !measuring" :error="error" :retry="refetch" />
    <template v-else>
      <ShelfHead title="Shelf" side="what plans may take: salts, additives, foods, instruments" />
      <div class="shelf">
        <FoldSection
          title="To buy"
          :line="soon"
          :open="isOpen('purchases')"
          last
          @toggle="toggle('purchases')"
        >
          <PurchaseList :list="buying ?? []" />
        </FoldSection>
        <FoldSection
          title="Salts"
          :line="names(data.salts)"
          :open="isOpen('salts')"
          last
          @toggle="toggle('salts')"
        >
          <p v-if="!data.salts.length" class="note">None yet. The label of a bucket is enough to start.</p>
          <ul>
            <SaltRow v-for="one in data.salts" :key="one.id" :one="one" :data="data" :acts="acts" />
          </ul>
          <SaltLabel v-if="adding || !data.salts.length" @done="adding = false" />
          <div v-else><v-btn size="small" @click="adding = true">Another salt</v-btn></div>
        </FoldSection>
        <FoldSection
          title="Instruments and reagents"
          :line="names(measuring.instruments)"
          :open="isOpen('instruments')"
          :wrong="doubts"
          last
          @toggle="toggle('instruments')"
        >
          <InstrumentList :data="measuring" />
        </FoldSection>
        <FoldSection
          title="Additives"
          :line="names(data.additives)"
          :open="isOpen('additives')"
          last
          @toggle="toggle('additives')"
        >
          <AdditiveList :data="data" :acts="acts" />
        </FoldSection>
        <FoldSection
          title="Foods"
          :line="names(data.foods)"
          :open="isOpen('foods')"
          :wrong="stale"
          last
          @toggle="toggle('foods')"
        >
          <FoodList :data="data" :acts="acts" />
        </FoldSection>
      </div>
    </template>
  </div>
</template>

<style scoped>
.shelf {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  max-width: 1180px;
}
.shelf :deep(ul) {
  list-style: none;
  padding: 0;
}
.shelf :deep(li) {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
.shelf :deep(.row) {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
}
.shelf :deep(.fields .v-btn) {
  justify-self: start;
  margin-top: 6px;
}
</style>
