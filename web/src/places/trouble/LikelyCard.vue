<script setup lang="ts">
import type { Schemas } from '../../api/client'
import CautionNote from '../../parts/CautionNote.vue'

/** A likely trouble: how likely, why, why not, and what is done first. */
defineProps<{ one: Schemas['LikelyShown']; first: boolean; system: number }>()
</script>

<template>
  <li class="card" :class="{ first }">
    <div class="top">
      <h3>{{ one.name }}</h3>
      <span class="share">{{ one.words }}</span>
    </div>
    <div class="bar" aria-hidden="true"><span :style="{ width: `${one.share}%` }" /></div>
    <p v-if="first" class="soft">{{ one.about }}</p>
    <p v-if="one.speaks_for.length"><b>For:</b> {{ one.speaks_for.join(' · ') }}</p>
    <p v-if="one.against.length" class="soft"><b>Against:</b> {{ one.against.join(' · ') }}</p>
    <template v-if="first">
      <p><b>First:</b> {{ one.first }}</p>
      <CautionNote v-if="one.caution" :caution="one.caution" />
      <p v-for="way in one.programmes" :key="way.key">
        <router-link :to="{ name: 'programme', params: { system, key: way.key } }"
          >Programme: {{ way.name }}</router-link
        >
      </p>
    </template>
  </li>
</template>

<style scoped>
.card {
  padding: 10px 16px 12px;
  margin-bottom: 8px;
  list-style: none;
}
.first {
  border-left: 4px solid var(--deep);
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: baseline;
}
h3 {
  font-size: 1.05rem;
}
.share {
  white-space: nowrap;
}
.bar {
  height: 5px;
  border-radius: 3px;
  background: var(--line);
  margin: 4px 0 6px;
}
.bar span {
  display: block;
  height: 100%;
  border-radius: 3px;
  background: var(--deep);
}
p {
  margin: 3px 0;
}
</style>
