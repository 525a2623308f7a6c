<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import Working from '../../parts/Working.vue'

/** The litres that follow from the levels, what does not fit together, and the worst three. */
const open = ref('')
defineProps<{ board?: Schemas['FailureBoard'] }>()
</script>

<template>
  <section class="card" aria-live="polite" aria-labelledby="follows-title">
    <h2 id="follows-title">What follows</h2>
    <p v-if="!board" class="soft">Fix the marked fields to see the numbers.</p>
    <template v-else>
      <dl>
        <div v-for="(litres, name) in board.drawing.litres" :key="name">
          <dt>{{ name }}</dt>
          <dd>{{ litres }}</dd>
        </div>
      </dl>
      <h3>Heat</h3>
      <dl>
        <div v-for="one in board.heat" :key="one.key">
          <dt>{{ one.name }}</dt>
          <dd>
            <button
              type="button"
              class="number-link"
              :aria-expanded="open === one.key"
              @click="open = open === one.key ? '' : one.key"
            >
              {{ one.text }}
            </button>
          </dd>
          <Working v-if="open === one.key" :steps="one.working" class="whole" />
        </div>
      </dl>
      <p v-for="one in board.doubts" :key="one" class="departs" role="note">{{ one }}</p>
      <h3>Worst three</h3>
      <ol v-if="board.worst.length">
        <li v-for="one in board.worst" :key="one">{{ one }}</li>
      </ol>
      <p v-else class="soft">Nothing that is known here does harm.</p>
    </template>
  </section>
</template>

<style scoped>
.card {
  padding: 12px 16px;
}
h2 {
  font-size: 1.1rem;
}
h3 {
  font-size: 1rem;
  margin-top: 10px;
}
dl > div {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 12px;
  padding: 2px 0;
}
dt::first-letter {
  text-transform: uppercase;
}
dd {
  margin: 0;
  font-weight: 600;
  white-space: nowrap;
}
dt {
  flex: 1;
}
.whole {
  flex-basis: 100%;
}

.number-link {
  padding: 0;
  font: inherit;
  color: inherit;
  text-decoration: underline dotted;
  cursor: pointer;
  min-height: 26px;
}
ol {
  padding-left: 20px;
}
</style>
