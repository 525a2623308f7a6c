<script setup lang="ts">
import type { Schemas } from '../../api/client'
import RateStrip from '../../parts/RateStrip.vue'
import TermWord from '../../parts/TermWord.vue'

/** What is used up: over half a year, today with its interval, and what goes with it. */
defineProps<{ offer: Schemas['DosingOffer'] }>()
</script>

<template>
  <section class="uptake" aria-label="Uptake">
    <RateStrip
      v-if="offer.history.length > 1"
      :points="offer.history"
      name="Uptake of alkalinity"
      :unit="offer.unit"
    />
    <div>
      <table class="values">
        <caption class="visually-hidden">
          What is used up a day
        </caption>
        <thead>
          <tr>
            <th scope="col"><TermWord word="uptake">Used up</TermWord></th>
            <th scope="col" class="number">a day</th>
            <th scope="col" class="number">80 % range</th>
            <th scope="col" class="wide-only"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in offer.uptake" :key="row.parameter">
            <th scope="row">{{ row.name }}</th>
            <td class="number">
              <b>{{ row.amount }}</b> <span class="unit">{{ row.unit.replace(' a day', '') }}</span>
            </td>
            <td class="number soft">{{ row.interval || '–' }}</td>
            <td class="soft small wide-only">{{ row.words }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="cause in offer.causes" :key="cause" class="soft small">{{ cause }}</p>
    </div>
  </section>
  <p class="review" :class="{ off: ['short', 'over'].includes(offer.review.fit) }" role="status">
    {{ offer.review.words }}
  </p>
</template>

<style scoped>
.uptake {
  display: grid;
  grid-template-columns: minmax(300px, 2fr) 3fr;
  gap: 22px;
  align-items: start;
}
.small {
  font-size: 0.9rem;
}
p.small {
  margin-top: 6px;
}
.review {
  margin: 14px 0 12px;
  font-size: 1.1rem;
  font-weight: 600;
}
.review.off {
  border-left: 4px solid var(--magenta);
  padding-left: 12px;
}
@media (max-width: 1000px) {
  .uptake {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
