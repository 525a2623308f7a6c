<script setup lang="ts">
import type { PlaceGroup } from './places'

/** Every place of the app, by the work it is for: two touches away at any width. */
defineProps<{ modelValue: boolean; groups: PlaceGroup[] }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean]; calculator: []; shortcuts: [] }>()
const close = () => emit('update:modelValue', false)
</script>

<template>
  <v-dialog
    :model-value="modelValue"
    max-width="560"
    content-class="places-menu"
    @update:model-value="emit('update:modelValue', $event)"
  >
    <v-card title="All places">
      <v-card-text>
        <nav aria-label="All places">
          <section v-for="group in groups" :key="group.name">
            <h3>{{ group.name }}</h3>
            <router-link
              v-for="place in group.places"
              :key="place.name"
              :to="place.to"
              class="entry"
              active-class="here"
              @click="close"
            >
              <v-icon :icon="place.icon" size="20" aria-hidden="true" />{{ place.name }}
            </router-link>
          </section>
        </nav>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="(close(), emit('calculator'))">Calculator</v-btn>
        <v-btn class="wide-only" @click="(close(), emit('shortcuts'))">Shortcuts</v-btn>
        <v-spacer />
        <v-btn @click="close">Close</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
nav {
  display: grid;
  gap: 14px;
}
section {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(132px, 1fr));
  gap: 6px;
}
h3 {
  grid-column: 1 / -1;
  font-size: 0.95rem;
  color: var(--soft);
  font-weight: 600;
}
.entry {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 46px;
  padding: 6px 12px;
  text-decoration: none;
  letter-spacing: normal;
  border: 1px solid var(--line);
  border-radius: 4px;
}
.entry.here {
  font-weight: 700;
  box-shadow: inset 3px 0 var(--ink);
}
@media (max-width: 900px) {
  .wide-only {
    display: none;
  }
}
</style>
