<script setup lang="ts">
import { computed, reactive } from 'vue'
import { answer, api, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import ChemText from '../../parts/ChemText.vue'
import MeasureInput from '../../parts/MeasureInput.vue'
import { typed, written } from '../../parts/numbers'
import Working from '../../parts/Working.vue'

/** A stock solution as a sentence; its recipe and its label follow while typing. */
const props = defineProps<{ offer: Schemas['StockOffer'] }>()
const first = props.offer.body
const request = reactive({
  formula: first.formula,
  purity: written(first.purity_percent ?? 100),
  strength: written(first.strength_g_l),
  volume: written(first.volume_l),
})
const { result, problem } = usePreview(
  () => ({ ...request }),
  (now, signal) => {
    const body = {
      formula: now.formula,
      purity_percent: typed(now.purity),
      strength_g_l: typed(now.strength),
      volume_l: typed(now.volume),
    }
    return answer(api.POST('/api/stock/preview', { body, signal }))
  },
)
const FIELDS = ['formula', 'purity_percent', 'strength_g_l', 'volume_l', 'volume', 'purity']
const problems = computed(() => FIELDS.map((name) => problem.value?.at(name)).filter(Boolean))
const recipe = computed(() => result.value)
const print = () => window.print()
</script>

<template>
  <div class="planner">
    <section class="no-print">
      <div class="card sentence">
        <p>
          Make
          <MeasureInput v-model="request.volume" unit="L" label="How much stock" />
          of
          <select v-model="request.formula" aria-label="Compound">
            <option v-for="one in offer.compounds" :key="one.key" :value="one.key">{{ one.name }}</option>
          </select>
          solution of
          <input
            v-model="request.strength"
            inputmode="decimal"
            class="number"
            aria-label="Strength in grams a litre"
          />
          g/L from powder of
          <input v-model="request.purity" inputmode="decimal" class="narrow" aria-label="Purity in percent" />
          % purity.
        </p>
        <p v-for="one in problems" :key="one" class="magenta small" role="alert">{{ one }}</p>
      </div>
      <template v-if="recipe">
        <p class="weigh" :class="{ stale: problem }">
          Weigh <b>{{ recipe.mass }}</b> <ChemText :text="`${recipe.name}, ${recipe.formula}`" />
        </p>
        <ol class="steps">
          <li v-for="step in recipe.steps" :key="step">{{ step }}</li>
        </ol>
        <p class="soft small mt-2">{{ recipe.solubility }}. {{ recipe.matched }}</p>
        <details class="mt-2">
          <summary class="soft">show working</summary>
          <Working :steps="recipe.working" />
        </details>
      </template>
      <div v-else-if="!problem" class="reserve" />
    </section>
    <aside v-if="!recipe && !problem" class="reserve" />
    <aside v-if="recipe" :class="{ stale: problem }">
      <article class="label">
        <header>
          <b><ChemText :text="recipe.name" /></b>
          <span>stock solution</span>
        </header>
        <dl>
          <template v-for="line in recipe.label" :key="line.name">
            <dt>{{ line.name }}</dt>
            <dd><ChemText :text="line.value" /></dd>
          </template>
        </dl>
        <p v-for="one in recipe.cautions" :key="one.key" class="warn">{{ one.title }}: {{ one.text }}</p>
      </article>
      <v-btn block class="my-3 no-print" @click="print()">Print the label</v-btn>
    </aside>
  </div>
</template>

<style scoped>
.narrow {
  width: 3em;
  text-align: center;
}
.number {
  width: 4em;
  text-align: center;
}
.weigh {
  font-size: 1.2rem;
  margin: 14px 0 8px;
}
.steps {
  padding-left: 22px;
}
.small {
  font-size: 0.9rem;
}
.stale {
  opacity: 0.55;
}
.label {
  max-width: 100mm;
  border: 2px solid #14303d;
  border-radius: 6px;
  background: #fff;
  color: #14303d;
  padding: 4mm 5mm;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 2px solid #14303d;
  margin-bottom: 2mm;
}
header b {
  font-size: 1.3rem;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0 4mm;
}
dd {
  font-weight: 700;
  text-align: right;
}
.warn {
  color: #9c1458;
  font-size: 0.8rem;
  margin-top: 2mm;
}
</style>
