<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'

/** What would help, the most harm prevented for the least money and work first. */
const props = defineProps<{ helps: Schemas['HelpShown'][] }>()
const SHOWN = 4
const all = ref(false)
const list = computed(() => (all.value ? props.helps : props.helps.slice(0, SHOWN)))
</script>

<template>
  <section v-if="helps.length" class="card" aria-labelledby="helps-title">
    <h2 id="helps-title">What would help most</h2>
    <ol>
      <li v-for="one in list" :key="one.key">
        <b>{{ one.name }}</b> <span class="soft">{{ one.money }}, {{ one.minutes }} min</span>
        <p>{{ one.how }}</p>
        <p v-if="one.stops.length" class="soft">Stops: {{ one.stops.join('; ') }}</p>
        <p v-if="one.tells.length" class="soft">Warns of: {{ one.tells.join('; ') }}</p>
      </li>
    </ol>
    <button v-if="helps.length > SHOWN" type="button" class="plain-link" @click="all = !all">
      {{ all ? 'fewer' : `${helps.length - SHOWN} more` }}
    </button>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
  margin-bottom: 6px;
}
ol {
  padding-left: 20px;
  margin: 0;
}
li {
  margin-bottom: 8px;
}
li b {
  display: inline-block;
}
li b::first-letter {
  text-transform: uppercase;
}
p {
  margin: 1px 0;
}
</style>
