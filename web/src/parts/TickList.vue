<script setup lang="ts">
import type { Schemas } from '../api/client'
import ChemText from './ChemText.vue'

/** Things to confirm one by one, with what to look at; large enough for wet hands. */
defineProps<{ items: Schemas['Item'][] }>()
const emit = defineEmits<{ tick: [item: string, on: boolean] }>()
</script>

<template>
  <ul>
    <li v-for="item in items" :key="item.key">
      <label :class="{ ticked: item.ticked }">
        <input type="checkbox" :checked="item.ticked" @change="emit('tick', item.key, !item.ticked)" />
        <span>
          <b><ChemText :text="item.name" /></b>
          <i class="soft">{{ item.words }}</i>
        </span>
      </label>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  display: grid;
  gap: 8px;
}
label {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 60px;
  padding: 8px 14px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  cursor: pointer;
}
.ticked {
  border-color: var(--ink);
}
input {
  width: 26px;
  height: 26px;
  accent-color: var(--ink);
  flex: none;
}
b,
i {
  display: block;
  line-height: 1.25;
}
b {
  font-size: 1.1rem;
}
@media print {
  label {
    min-height: 0;
    border-width: 0 0 1px;
  }
}
</style>
