<script setup lang="ts">
import type { Schemas } from '../api/client'
import CarerSystem from './CarerSystem.vue'
import GuardList from './GuardList.vue'

/** What a visiting carer is given: whom to call, what is never done, and a sheet for each system. */
defineProps<{ sheet: Schemas['CarerSheet']; today?: string }>()
const dial = (phone: string) => `tel:${phone.replace(/[^+\d]/g, '')}`
</script>

<template>
  <div class="sheet">
    <p class="call">
      <template v-if="sheet.phone"
        >Call <a :href="dial(sheet.phone)">{{ sheet.phone }}</a></template
      >
      <template v-if="sheet.other_phone"
        >, then <a :href="dial(sheet.other_phone)">{{ sheet.other_phone }}</a></template
      >
    </p>
    <p v-if="sheet.note">{{ sheet.note }}</p>
    <p class="never">
      <b>Never:</b>
      <template v-for="(line, number) in sheet.never" :key="line"
        >{{ number ? '; ' : ' ' }}{{ line }}</template
      >.
    </p>
    <p v-for="line in sheet.untold" :key="line" class="never" role="alert">{{ line }}</p>
    <section class="wrong">
      <h2>When something is wrong, in any of them</h2>
      <GuardList :guards="sheet.guards" />
    </section>
    <CarerSystem v-for="one in sheet.systems" :key="one.system_id" :one="one" :today="today">
      <slot :one="one" />
    </CarerSystem>
  </div>
</template>

<style scoped>
.call {
  font-size: 1.25rem;
  font-weight: 700;
}
.never {
  border-left: 4px solid var(--magenta);
  padding: 2px 12px;
  margin: 8px 0 12px;
}
.call a {
  white-space: nowrap;
}
.wrong {
  margin-bottom: 12px;
}
p {
  max-width: 70em;
}
</style>
