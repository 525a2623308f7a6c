<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { livestockQuery } from '../../api/queries'
import AnimalForm from './AnimalForm.vue'
import AnimalRow from './AnimalRow.vue'
import { useLivestock } from './useLivestock'

/** The animals of a system, what they bear, and what became of them. */
const props = defineProps<{ system: number }>()
const { data } = useQuery(() => livestockQuery(props.system))
const acts = useLivestock(props.system)
</script>

<template>
  <template v-if="data">
    <p v-if="!data.animals.length" class="note">
      None yet. An animal with its own tolerances is judged by them, and a plan names the one that sets its
      pace.
    </p>
    <ul v-else class="animals">
      <AnimalRow v-for="one in data.animals" :key="one.id" :one="one" :data="data" :acts="acts" />
    </ul>
    <AnimalForm :data="data" :acts="acts" />
    <details v-if="data.history.length">
      <summary>What became of them</summary>
      <ul class="past">
        <li v-for="(one, index) in data.history" :key="index" :class="{ gone: one.void }">
          <span class="soft">{{ one.day }}</span> {{ one.words }}
        </li>
      </ul>
    </details>
  </template>
</template>

<style scoped>
.animals,
.past {
  list-style: none;
  padding: 0;
}
.past li {
  display: flex;
  gap: 12px;
  font-size: 0.92rem;
}
.gone {
  text-decoration: line-through;
  color: var(--soft);
}
summary {
  cursor: pointer;
  font-weight: 600;
}
</style>
