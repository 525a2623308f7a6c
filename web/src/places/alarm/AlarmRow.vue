<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** An alarm: what it is, who looked, who was told. */
defineProps<{ alarm: Schemas['AlarmShown']; busy?: boolean }>()
const emit = defineEmits<{ see: [] }>()
</script>

<template>
  <article :class="{ urgent: alarm.urgent && !alarm.is_over && !alarm.seen, over: alarm.is_over }">
    <h3>{{ alarm.system }}: {{ alarm.title }}</h3>
    <p>{{ alarm.words }}</p>
    <p v-if="alarm.over || alarm.seen" class="soft">
      {{ [alarm.over, alarm.seen].filter(Boolean).join(' ') }}
    </p>
    <ul v-if="alarm.messages.length">
      <li v-for="(one, at) in alarm.messages" :key="at" :class="{ soft: one.arrived }">
        {{ one.contact }} ({{ one.channel }}): {{ one.words }}
      </li>
    </ul>
    <div v-if="!alarm.is_over" class="ways">
      <v-btn v-if="!alarm.seen" size="small" :loading="busy" @click="emit('see')">I’m on it</v-btn>
      <v-btn
        v-if="alarm.sheet"
        size="small"
        variant="flat"
        :to="{ name: 'emergency-sheet', params: { system: alarm.system_id, sheet: alarm.sheet } }"
        >What to do first</v-btn
      >
    </div>
  </article>
</template>

<style scoped>
article {
  padding: 10px 0 10px 12px;
  border-left: 4px solid var(--line);
}
article + article {
  margin-top: 8px;
}
article.urgent {
  border-left-color: var(--magenta);
}
h3 {
  font-size: 1rem;
}
.over h3 {
  font-weight: 500;
}
ul {
  list-style: none;
  padding: 0;
  margin: 2px 0;
  font-size: 0.9rem;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 6px;
}
.ways :deep(.v-btn) {
  font-size: 0.875rem;
}
</style>
