<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import ChemText from '../../parts/ChemText.vue'

/** One way to deal with a cause: its steps, what it does to the water, what it needs, and why it stands here. */
const props = defineProps<{ remedy: Schemas['RemedyShown']; first: boolean; busy: boolean }>()
const emit = defineEmits<{ choose: [] }>()
const open = ref(props.first)
const minutes = computed(() => (props.remedy.minutes ? `${props.remedy.minutes} min` : ''))
const buy = computed(() => props.remedy.supplies.filter((one) => !one.on_shelf))
</script>

<template>
  <article class="card" :class="{ first, no: !remedy.fits }">
    <div class="top">
      <h3><ChemText :text="remedy.title" /></h3>
      <span v-if="minutes" class="soft minutes">{{ minutes }}</span>
    </div>
    <p v-if="remedy.why" class="soft"><ChemText :text="remedy.why" /></p>
    <p v-if="remedy.how && (first || open)"><ChemText :text="remedy.how" /></p>
    <div v-if="remedy.fits" class="ways">
      <v-btn :variant="first ? 'flat' : 'outlined'" size="small" :disabled="busy" @click="emit('choose')"
        >Use this plan</v-btn
      >
      <button
        v-if="remedy.steps.length || remedy.effects.length"
        class="plain-link"
        type="button"
        :aria-expanded="open"
        @click="open = !open"
      >
        {{ open ? 'fewer details' : 'steps and effects' }}
      </button>
      <span v-if="buy.length" class="magenta small"
        >Buy: {{ buy.map((one) => `${one.amount} ${one.name}`).join(', ') }}</span
      >
    </div>
    <div v-if="open && remedy.fits" class="details">
      <ol v-if="remedy.steps.length" class="steps" aria-label="Steps">
        <li v-for="(step, index) in remedy.steps" :key="index">
          <span class="soft day">{{ step.day }}</span> {{ step.words }}
        </li>
      </ol>
      <table v-if="remedy.effects.length" class="values">
        <caption class="soft small">
          What it does, until
          {{
            remedy.until
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col"><span class="visually-hidden">Parameter</span></th>
            <th scope="col">now</th>
            <th scope="col">with it</th>
            <th scope="col">without</th>
            <th scope="col">in band</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="effect in remedy.effects" :key="effect.parameter">
            <th scope="row">{{ effect.name }}</th>
            <td>{{ effect.now }}</td>
            <td>
              <b>{{ effect.after }}</b>
            </td>
            <td>{{ effect.without }}</td>
            <td>{{ effect.chance || '–' }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="remedy.supplies.length" class="small">
        Takes {{ remedy.supplies.map((one) => `${one.amount} ${one.name}`).join(', ')
        }}{{ remedy.cost ? `, ${remedy.cost}` : '' }}.
      </p>
      <p v-if="remedy.risk" class="small"><b>What could go wrong:</b> {{ remedy.risk }}</p>
    </div>
  </article>
</template>

<style scoped>
article {
  padding: 12px 16px;
  margin-bottom: 10px;
}
article.first {
  border-left: 4px solid var(--deep);
}
article.no h3 {
  font-weight: 500;
  color: var(--soft);
}
h3 {
  font-size: 1.02rem;
  font-weight: 700;
  line-height: 1.3;
}
p {
  margin: 3px 0;
}
.top {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.minutes {
  white-space: nowrap;
  font-size: 0.85rem;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  margin-top: 8px;
}
.details {
  margin-top: 10px;
  display: grid;
  gap: 8px;
}
.steps {
  list-style: none;
  padding: 0;
  margin: 0;
}
.steps .day {
  display: inline-block;
  min-width: 92px;
}
.values {
  font-size: 0.92rem;
  border-collapse: collapse;
}
.values caption {
  text-align: left;
}
.values th,
.values td {
  padding: 2px 14px 2px 0;
  text-align: right;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.values th[scope='row'] {
  text-align: left;
  font-weight: 500;
}
.small {
  font-size: 0.88rem;
}
@media (max-width: 500px) {
  .values {
    font-size: 0.82rem;
  }
  .values th,
  .values td {
    padding-right: 6px;
    white-space: normal;
  }
}
</style>
