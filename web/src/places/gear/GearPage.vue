<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { gearQuery, purchasesQuery } from '../../api/queries'
import ShelfHead from '../../parts/ShelfHead.vue'
import Waiting from '../../parts/Waiting.vue'
import PartRow from './PartRow.vue'

const { data, error, refetch } = useQuery(gearQuery)
const { data: buying } = useQuery(purchasesQuery)
const buy = computed(() => (buying.value ?? []).filter((one) => one.kind === 'part'))
const open = ref('')
const toggle = (key: string) => (open.value = open.value === key ? '' : key)
</script>

<template>
  <div class="page">
    <ShelfHead title="Gear" side="what of each part is used up, what comes next, and what is to be bought" />
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <p v-else-if="!data.systems.length">
      No gear yet. <router-link :to="{ name: 'start' }">Start with your tank</router-link> and tick what it
      has.
    </p>
    <template v-else>
      <p v-if="buy.length" class="buy">
        <b>To buy: </b>
        <span v-for="one in buy" :key="one.system_id + one.key">{{ one.words }}, {{ one.by }}</span>
      </p>
      <p v-else class="buy soft">Nothing to buy in the next thirty days.</p>
      <section v-for="system in data.systems" :key="system.system_id" :aria-label="system.name">
        <h2>{{ system.name }}</h2>
        <p v-if="!system.parts.length" class="note">
          Nothing here wears out, as set up.
          <router-link :to="{ name: 'setup', params: { system: system.system_id } }">Its gear</router-link>
        </p>
        <PartRow
          v-for="part in system.parts"
          :key="part.part"
          :part="part"
          :system="system.system_id"
          :open="open === `${system.system_id} ${part.part}`"
          @toggle="toggle(`${system.system_id} ${part.part}`)"
        />
      </section>
    </template>
  </div>
</template>

<style scoped>
.buy {
  border-left: 4px solid var(--magenta);
  padding: 2px 12px;
  margin-bottom: 12px;
}
.buy.soft {
  border-color: var(--line);
}
b {
  margin-right: 6px;
}
.buy span + span::before {
  content: ' · ';
}
h2 {
  margin: 14px 0 2px;
}
</style>
