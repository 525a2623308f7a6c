<script setup lang="ts">
import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

/** Minutes needed a week against those given, and what would make it fit, each in one press. */
defineProps<{ data: Schemas['WorkloadShown'] }>()
const commands = useCommands()
const choose = (one: Schemas['SavingShown'], body: Schemas['ChoiceBody']) =>
  command((header) =>
    api.PUT('/api/systems/{system_id}/care/{task}', {
      params: { path: { system_id: one.system_id, task: one.task }, header },
      body,
    }),
  )
const take = (one: Schemas['SavingShown']) =>
  commands.runWith(
    () => choose(one, one.choice),
    () => choose(one, one.before),
  )
</script>

<template>
  <section class="mb-6" aria-labelledby="load-title">
    <h2 id="load-title">Needed and given</h2>
    <p :class="{ magenta: !data.fits }">
      <b>{{ data.words }}.</b>
    </p>
    <p class="soft">
      <template v-for="(one, index) in data.systems" :key="one.system_id"
        >{{ index ? ' · ' : '' }}{{ one.name }} {{ one.minutes }} min</template
      >
    </p>
    <template v-if="!data.fits">
      <p class="my-2">{{ data.undone }}.</p>
      <h3 v-if="data.savings.length">What would help</h3>
      <ul>
        <li v-for="one in data.savings" :key="one.words">
          <span>
            {{ one.words }}, <b>{{ one.saves }}</b>
            <span class="soft small">{{ one.risk }}</span>
          </span>
          <v-btn size="small" :loading="commands.busy.value" @click="take(one)">Do it</v-btn>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  border-top: 1px solid var(--line);
  padding: 6px 0;
}
.small {
  display: block;
  font-size: 0.88rem;
}
</style>
