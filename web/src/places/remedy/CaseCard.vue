<script setup lang="ts">
import { ref } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { caseRoute } from '../../parts/caseRoute'
import { useCommands } from '../../parts/useCommands'

/** A plan that was chosen: how it stands by the latest test, and what can become of it. */
const props = defineProps<{ system: number; one: Schemas['CaseShown']; link?: boolean; name?: string }>()
const acts = useCommands()
const because = ref('')
const asked = ref<'' | 'give' | 'hand'>('')
const carer = ref('')

function turn(kind: Schemas['CaseTurnBody']['kind'], why = '') {
  void acts.run(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/cases/{case_id}/turns', {
        params: { header, path: { system_id: props.system, case_id: props.one.id } },
        body: { kind, because: why },
      }),
    ),
  )
}
function give() {
  turn('abandoned', because.value)
  asked.value = ''
}
function hand() {
  turn('handed', carer.value)
  asked.value = ''
}
const ask = (what: 'give' | 'hand') => (asked.value = asked.value === what ? '' : what)
</script>

<template>
  <article class="card">
    <div class="top">
      <h3>
        <span v-if="name" class="soft">{{ name }}:</span>
        <router-link v-if="link" :to="caseRoute(system, one)">{{ one.title }}</router-link>
        <template v-else>{{ one.title }}</template>
      </h3>
      <span class="state">{{ one.state }}</span>
    </div>
    <p>{{ one.words }}</p>
    <p v-if="one.to_do" class="magenta">{{ one.to_do }}</p>
    <p class="soft small">
      Chosen {{ one.opened }}.<template v-if="one.carer && one.live">
        {{ one.carer }} does the steps.</template
      >
    </p>
    <div v-if="!one.closed" class="ways">
      <button
        v-if="one.live && !one.paused"
        class="plain-link"
        type="button"
        :disabled="acts.busy.value"
        @click="turn('paused')"
      >
        pause
      </button>
      <button
        v-if="one.paused"
        class="plain-link"
        type="button"
        :disabled="acts.busy.value"
        @click="turn('resumed')"
      >
        go on with it
      </button>
      <button class="plain-link" type="button" :disabled="acts.busy.value" @click="turn('ended')">
        end it here
      </button>
      <button
        v-if="one.live"
        class="plain-link"
        type="button"
        :aria-expanded="asked === 'give'"
        @click="ask('give')"
      >
        give it up
      </button>
      <button
        v-if="one.live && !one.carer"
        class="plain-link"
        type="button"
        :aria-expanded="asked === 'hand'"
        @click="ask('hand')"
      >
        hand it to someone
      </button>
      <button
        v-if="one.live && one.carer"
        class="plain-link"
        type="button"
        :disabled="acts.busy.value"
        @click="turn('handed')"
      >
        take it back from {{ one.carer }}
      </button>
    </div>
    <form v-if="asked === 'hand'" class="ways" @submit.prevent="hand">
      <label
        >To
        <input v-model="carer" maxlength="60" class="why" required aria-label="Who does the steps" />
      </label>
      <v-btn size="small" type="submit" variant="outlined" :disabled="acts.busy.value || !carer.trim()"
        >Hand it over</v-btn
      >
    </form>
    <form v-if="asked === 'give'" class="ways" @submit.prevent="give">
      <label
        >Why
        <input v-model="because" maxlength="500" class="why" aria-label="Why it is given up" />
      </label>
      <v-btn size="small" type="submit" variant="outlined" :disabled="acts.busy.value">Give it up</v-btn>
    </form>
  </article>
</template>

<style scoped>
article {
  padding: 12px 16px;
  margin-bottom: 10px;
  border-left: 4px solid var(--deep);
}
h3 {
  font-size: 1.02rem;
  font-weight: 700;
}
p {
  margin: 3px 0;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.state {
  white-space: nowrap;
  font-weight: 600;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  margin-top: 6px;
}
.why {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 5px 8px;
  color: var(--ink);
  min-width: 220px;
}
.small {
  font-size: 0.88rem;
}
</style>
