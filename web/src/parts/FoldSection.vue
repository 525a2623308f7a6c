<script setup lang="ts">
/** A part that folds: what it holds, in a line; opened, its fields, and the way on to the next. */
defineProps<{
  number?: number
  title: string
  line: string
  open: boolean
  wrong?: boolean
  last?: boolean
}>()
const emit = defineEmits<{ toggle: []; next: [] }>()
</script>

<template>
  <section class="card" :class="{ open }">
    <h2>
      <button type="button" :aria-expanded="open" @click="emit('toggle')">
        <span v-if="number" class="number">{{ number }}</span> {{ title }}
        <span v-if="wrong" class="magenta">needs a look</span>
        <span class="line soft">{{ open ? '' : line }}</span>
        <span class="turn" aria-hidden="true">{{ open ? '−' : '+' }}</span>
      </button>
    </h2>
    <div v-if="open" class="body">
      <slot />
      <v-btn v-if="!last" class="on" variant="outlined" size="small" @click="emit('next')">Next</v-btn>
    </div>
  </section>
</template>

<style scoped>
h2 button {
  display: flex;
  gap: 12px;
  align-items: baseline;
  width: 100%;
  padding: 11px 18px;
  text-align: left;
  font: inherit;
  color: inherit;
  cursor: pointer;
}
.number {
  color: var(--soft);
  font-weight: 400;
  font-style: italic;
  width: 1.2em;
}
.line {
  flex: 1;
  font-weight: 400;
  font-size: 0.92rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.turn {
  font-weight: 400;
}
.body {
  padding: 4px 18px 16px 44px;
  display: grid;
  gap: 12px;
}
.on {
  justify-self: start;
}
@media (max-width: 700px) {
  h2 button {
    flex-wrap: wrap;
  }
  .turn {
    margin-left: auto;
  }
  .line {
    order: 2;
    flex-basis: 100%;
    padding-left: 26px;
    white-space: normal;
  }
  .body {
    padding-left: 18px;
  }
}
</style>
