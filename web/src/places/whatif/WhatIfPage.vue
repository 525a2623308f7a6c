<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useRoute } from 'vue-router'
import { whatIfQuery } from '../../api/queries'
import Waiting from '../../parts/Waiting.vue'
import WhatIf from './WhatIf.vue'

const id = Number(useRoute().params.system)
const { data, error, refetch } = useQuery(() => whatIfQuery(id))
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else-if="data.missing.length">
      <h1>What if, {{ data.name }}</h1>
      <p class="note">
        Plans are compared from what the water is and from a salt to change it with. Still missing:
        {{ data.missing.join(' and ') }}.
      </p>
      <p>
        <router-link :to="{ name: 'shelf' }">To the Shelf</router-link> ·
        <router-link :to="{ name: 'bench', params: { system: id } }">To the Bench</router-link>
      </p>
    </template>
    <WhatIf v-else :system="id" :offer="data" />
  </div>
</template>
