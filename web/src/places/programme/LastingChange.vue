<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useUpkeep } from '../../parts/useUpkeep'

/** The one change of routine that a programme leaves behind. */
const props = defineProps<{ system: number; sheet: Schemas['ProgrammeSheet'] }>()
const upkeep = useUpkeep(props.system)
const keep = () => upkeep.every(props.sheet.lasting.task, props.sheet.lasting_days)
</script>

<template>
  <section class="card" aria-labelledby="lasting-title">
    <h2 id="lasting-title">What stays when it is over</h2>
    <p>
      <b>{{ sheet.lasting.name }}</b>, {{ sheet.lasting.often }}: {{ sheet.lasting.why }}.
    </p>
    <p v-if="sheet.lasting_kept" class="soft">It is part of the routine.</p>
    <button v-else class="plain-link" type="button" :disabled="upkeep.busy.value" @click="keep">
      make it part of the routine
    </button>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
p {
  margin: 4px 0;
}
</style>
