<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, command, ProblemError } from '../../api/client'
import { breakingInQuery, useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

/** How far a new system is: the phases on one line, what to test next, what is proved, and its end. */
const props = defineProps<{ system: number }>()
const { data } = useQuery(() => breakingInQuery(props.system))
const refresh = useRefresh()
const notices = useNotices()
const part = ref<'' | 'why' | 'end'>('')
const preset = ref('soft_corals')
const although = ref('')
const problem = ref('')
const toggle = (name: 'why' | 'end') => (part.value = part.value === name ? '' : name)

async function end() {
  problem.value = ''
  try {
    const kept = await command((header) =>
      api.POST('/api/systems/{system_id}/cycling/end', {
        params: { path: { system_id: props.system }, header },
        body: { preset: preset.value, although: although.value },
      }),
    )
    notices.say(kept.words)
    await refresh()
  } catch (fault) {
    problem.value = fault instanceof ProblemError ? fault.message : String(fault)
  }
}
</script>

<template>
  <section v-if="data" class="card" aria-labelledby="breaking-title">
    <ol class="phases" aria-label="Phases of cycling">
      <li
        v-for="phase in data.phases"
        :key="phase.key"
        :class="phase.state"
        :aria-current="phase.state === 'now'"
      >
        {{ phase.name }}
      </li>
    </ol>
    <h2 id="breaking-title">
      {{ data.words }} <span class="soft day">day {{ data.day }}</span>
    </h2>
    <p>{{ data.reason }}</p>
    <p class="advice">{{ data.finished ? data.first_change : data.test }}</p>
    <p v-if="!data.finished" class="soft small">
      {{ data.proof }} {{ data.alkalinity }}
      <template v-if="data.toxic && data.toxic.value >= 0.005"
        >Toxic ammonia now: {{ data.toxic.text }} {{ data.toxic.unit }}.</template
      >
    </p>
    <table v-if="data.stages.length" class="small">
      <caption>
        Stock in stages; continue only while ammonia and nitrite stay below detection
      </caption>
      <tbody>
        <tr v-for="stage in data.stages" :key="stage.what">
          <th scope="row">from {{ stage.from_day }}</th>
          <td>{{ stage.what }}</td>
          <td class="soft">test ammonia {{ stage.watch.join(', ') }}</td>
        </tr>
      </tbody>
    </table>
    <p class="small row">
      <button class="plain-link" type="button" :aria-expanded="part === 'why'" @click="toggle('why')">
        why no water change now
      </button>
      <button class="plain-link" type="button" :aria-expanded="part === 'end'" @click="toggle('end')">
        {{ data.finished ? 'end cycling' : 'end cycling anyway' }}
      </button>
    </p>
    <p v-if="part === 'why'" class="small">{{ data.why_no_change }}</p>
    <form v-if="part === 'end'" class="small end" novalidate @submit.prevent="end">
      <label>
        Target bands from now on
        <select v-model="preset">
          <option v-for="(name, key) in data.presets" :key="key" :value="key">{{ name }}</option>
        </select>
      </label>
      <label v-if="!data.finished">
        Why finish without proof
        <input v-model="although" maxlength="300" :aria-invalid="!!problem" />
      </label>
      <p v-if="problem" class="magenta" role="alert">{{ problem }}</p>
      <v-btn type="submit" variant="flat" size="small">It has finished cycling</v-btn>
    </form>
  </section>
</template>

<style scoped>
section {
  padding: 12px 16px;
  margin: 8px 0 10px;
}
h2 {
  font-size: 1.15rem;
}
.day {
  font-weight: 400;
  font-style: italic;
  font-size: 0.875rem;
  margin-left: 8px;
}
.phases {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  margin-bottom: 12px;
  font-size: 0.875rem;
}
.phases li {
  border-top: 3px solid var(--line);
  padding: 7px 8px 0 0;
  color: var(--soft);
  position: relative;
}
.phases li::before {
  content: '';
  position: absolute;
  top: -8px;
  left: 0;
  width: 13px;
  height: 13px;
  border: 2px solid var(--soft);
  background: var(--card);
  border-radius: 50%;
}
.phases .done {
  border-color: var(--deep);
}
.phases .done::before {
  background: var(--deep);
  border-color: var(--ink);
}
.phases .now {
  color: var(--ink);
  font-weight: 700;
}
.phases .now::before {
  border-color: var(--magenta);
  border-width: 4px;
}
.advice {
  font-weight: 600;
}
.small {
  font-size: 0.875rem;
}
.row {
  display: flex;
  gap: 18px;
  margin-top: 4px;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin: 8px 0;
}
caption {
  text-align: left;
  font-style: italic;
  color: var(--soft);
}
th,
td {
  text-align: left;
  padding: 3px 12px 3px 0;
  border-top: 1px solid var(--line);
  vertical-align: top;
}
th {
  white-space: nowrap;
}
.end {
  display: grid;
  gap: 10px;
  justify-items: start;
  margin-top: 8px;
}
.end label {
  display: grid;
  gap: 3px;
}
.end input,
.end select {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 6px 10px;
  color: var(--ink);
  background: var(--card);
  min-width: min(420px, 70vw);
}
option {
  color: #14303d;
}
@media (max-width: 600px) {
  .phases {
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
  }
  .phases li {
    border-top: 0;
    border-left: 3px solid var(--line);
    padding: 2px 0 2px 14px;
  }
  .phases li::before {
    top: 6px;
    left: -8px;
  }
}
</style>
