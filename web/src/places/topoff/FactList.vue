<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'

/** Facts in words, each with its working to open. */
defineProps<{ facts: Schemas['TopOffFact'][] }>()
const open = ref('')
</script>

<template>
  <dl>
    <div v-for="one in facts" :key="one.name">
      <dt>{{ one.name }}</dt>
      <dd>
        {{ one.words }}
        <button
          v-if="one.working.length"
          type="button"
          class="plain-link"
          :aria-expanded="open === one.name"
          :aria-label="`Working: ${one.name}`"
          @click="open = open === one.name ? '' : one.name"
        >
          working
        </button>
        <Working v-if="open === one.name" :steps="one.working" />
      </dd>
    </div>
  </dl>
</template>

<style scoped>
dl {
  margin: 0;
}
dl > div {
  padding: 5px 0;
}
dl > div + div {
  border-top: 1px solid var(--line);
}
dt {
  color: var(--soft);
  font-size: 0.92rem;
}
dd {
  margin: 0;
}
dd::first-letter {
  text-transform: uppercase;
}
</style>
