<script setup lang="ts">
/** What there is to buy, each with what it is for and a way there. */
import type { Schemas } from '../../api/client'

type Purchase = Schemas['PurchaseShown']
defineProps<{ list: Purchase[] }>()

function place(one: Purchase) {
  if (one.kind === 'part') return { name: 'gear' }
  if (one.kind === 'plan') return { name: 'remedy', params: { system: one.system_id, cause: one.key } }
  return undefined
}
</script>

<template>
  <p v-if="!list.length" class="note">Nothing to buy in the next thirty days.</p>
  <ul v-else aria-label="To buy">
    <li v-for="one in list" :key="one.kind + one.system_id + one.key + one.words" class="row">
      <b>{{ one.words }}</b>
      <span :class="{ magenta: one.urgent }">{{ one.by }}</span>
      <router-link v-if="place(one)" :to="place(one)!" class="soft">{{ one.reason }}</router-link>
      <span v-else class="soft">{{ one.reason }}</span>
    </li>
  </ul>
</template>
