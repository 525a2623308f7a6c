<script setup lang="ts">
import { useAlarms, useSeen } from './useAlarms'

/** The alarms that nobody has looked at yet, on every page. */
const { unseen } = useAlarms()
const { see, busy } = useSeen()
</script>

<template>
  <section v-if="unseen.length" class="no-print" role="alert" aria-label="Alarms">
    <div v-for="one in unseen.slice(0, 2)" :key="one.id" class="one" :class="{ urgent: one.urgent }">
      <p>
        <b>{{ one.system }}: {{ one.title }}</b>
        <span>{{ one.words }}</span>
      </p>
      <span class="ways">
        <v-btn
          v-if="one.sheet"
          size="small"
          variant="flat"
          :to="{ name: 'emergency-sheet', params: { system: one.system_id, sheet: one.sheet } }"
          >What to do first</v-btn
        >
        <v-btn size="small" :loading="busy" :aria-label="`I’m on it: ${one.title}`" @click="see(one.id)"
          >I’m on it</v-btn
        >
      </span>
    </div>
    <router-link v-if="unseen.length > 2" :to="{ name: 'alarms' }"
      >{{ unseen.length - 2 }} more alarms</router-link
    >
  </section>
</template>

<style scoped>
section {
  background: var(--card);
  border-bottom: 1px solid var(--line);
}
.one {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  padding: 8px 18px;
  border-left: 6px solid var(--sand);
}
.one.urgent {
  border-left-color: var(--magenta);
}
p {
  flex: 1 1 320px;
  min-width: 0;
}
b {
  margin-right: 10px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
a:not(.v-btn) {
  display: inline-block;
  padding: 4px 24px 8px;
}
.ways :deep(.v-btn) {
  font-size: 0.875rem;
}
</style>
