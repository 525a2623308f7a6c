<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { runbooksQuery } from '../api/queries'
import { useCare } from './care'

/** Work on a system as it is, step by step: started here, or gone on with. */
const props = defineProps<{ system: number }>()
const care = useCare()
const { data } = useQuery(() => runbooksQuery(props.system))
</script>

<template>
  <div v-if="!data" class="reserve low" />
  <section v-if="data?.length" aria-labelledby="books-title">
    <h2 id="books-title">At the tank</h2>
    <p v-for="book in data" :key="book.key">
      <button class="plain-link" type="button" @click="care.start({ system_id: system, runbook: book.key })">
        {{ book.name }}{{ book.run_id ? ': go on' : '' }}
      </button>
      <span class="soft about">{{ book.about }}</span>
    </p>
  </section>
</template>

<style scoped>
.about {
  display: block;
}
p {
  font-size: 0.9rem;
  margin: 4px 0;
}
</style>
