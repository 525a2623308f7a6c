<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import ChemText from '../../parts/ChemText.vue'
import ContainerMoves from './ContainerMoves.vue'
import ContainerForm from './ContainerForm.vue'
import LevelGlass from './LevelGlass.vue'
import { useContainers } from './useContainers'

/** A container as it stands: level against what is expected, how long it lasts, what its pump really gives. */
const props = defineProps<{
  system: number
  container: Schemas['ContainerShown']
  answer: Schemas['ContainerAnswer']
}>()
const told = ref(false)
const editing = ref(false)
const containers = useContainers(props.system)
</script>

<template>
  <article class="card one" :aria-label="container.name">
    <LevelGlass :filled="container.filled" :expected="container.expected" :capacity="container.capacity" />
    <div class="what">
      <h2>
        {{ container.name }} <span class="soft light"><ChemText :text="container.holds" /></span>
      </h2>
      <p>
        <b class="left">{{ container.left }}</b> <span class="soft">of {{ container.capacity }}</span> ·
        {{ container.days
        }}<template v-if="container.refill"
          >, <b :class="{ magenta: container.urgent }">{{ container.refill }}</b></template
        >
      </p>
      <p>
        {{ container.set_words }} ·
        <span :class="{ magenta: container.wrong }">{{ container.delivered }}</span>
      </p>
      <p v-if="container.pump_words.length" class="soft small">{{ container.pump_words.join(' · ') }}</p>
      <div v-if="container.wrong" class="wrong" role="status">
        <h3>{{ container.wrong.title }}</h3>
        <p>{{ container.wrong.reason }}</p>
        <ol>
          <li v-for="step in container.wrong.steps" :key="step">{{ step }}</li>
        </ol>
      </div>
      <ContainerMoves :system="system" :container="container" :labels="answer.labels" />
      <ContainerForm
        v-if="editing"
        :system="system"
        :additives="answer.additives"
        :known="container"
        @done="editing = false"
      />
      <p v-if="told" class="soft small">
        <span v-for="event in container.history" :key="event.id" class="line">
          {{ event.words }}
          <button
            class="plain-link"
            type="button"
            :aria-label="`Undo: ${event.words}`"
            @click="containers.takeBack(container.id, event.id)"
          >
            undo
          </button>
        </span>
      </p>
      <p class="ways no-print">
        <button
          v-if="container.history.length"
          class="plain-link small soft"
          type="button"
          @click="told = !told"
        >
          {{ told ? 'hide what happened' : 'what happened' }}
        </button>
        <button class="plain-link small soft" type="button" @click="editing = !editing">edit</button>
        <button class="plain-link small soft" type="button" @click="containers.away(container.id)">
          retire
        </button>
      </p>
    </div>
  </article>
</template>

<style scoped>
.one {
  display: flex;
  gap: 18px;
  padding: 14px 18px;
  margin-bottom: 14px;
}
.what {
  flex: 1;
  min-width: 0;
}
h2 {
  font-size: 1.15rem;
}
.light {
  font-weight: 400;
  font-size: 0.9rem;
}
.left {
  font-size: 1.15rem;
}
.small {
  font-size: 0.9rem;
}

.ways {
  display: flex;
  gap: 18px;
}
.line {
  display: block;
}
.wrong {
  border-left: 4px solid var(--magenta);
  padding-left: 12px;
  margin: 10px 0;
}
.wrong h3 {
  font-size: 1rem;
  color: var(--magenta);
}
.wrong ol {
  padding-left: 20px;
}
@media (max-width: 600px) {
  .one {
    flex-direction: column;
    gap: 8px;
  }
}
</style>
