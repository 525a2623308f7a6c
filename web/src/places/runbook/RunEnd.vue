<script setup lang="ts">
import type { Schemas } from '../../api/client'
import TankBooks from '../../parts/TankBooks.vue'

defineProps<{ run: Schemas['RunAnswer'] }>()
</script>

<template>
  <h1>{{ run.abandoned ? 'Abandoned' : 'Done' }}</h1>
  <p v-if="run.abandoned">{{ run.abandoned }}</p>
  <template v-else>
    <p v-for="line in run.result" :key="line" class="my-2">{{ line }}</p>
    <p v-if="run.system_id" class="note my-3">
      It is recorded and the expected values are updated. Test in an hour or tomorrow to confirm.
    </p>
  </template>
  <v-btn
    v-if="run.system_id"
    block
    size="x-large"
    variant="flat"
    :to="{ name: 'sheet', params: { system: run.system_id } }"
    >To the Sheet</v-btn
  >
  <TankBooks v-if="run.system_id && !run.abandoned" :system="run.system_id" class="mt-6" />
  <v-btn
    v-if="!run.system_id"
    block
    size="x-large"
    variant="flat"
    :to="{ name: 'batch', params: { batch: run.batch_id } }"
    >To the batch</v-btn
  >
</template>
