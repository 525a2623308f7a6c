<script setup lang="ts">
import { keysOn } from './keys'

defineProps<{ modelValue: boolean; places: { name: string; key?: string }[] }>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean] }>()
const more = [
  ['1 to 9', 'the system at that place in Harbour'],
  ['/', 'search and go'],
  ['j', 'quick entry'],
  ['=', 'calculator'],
  ['n', 'night and day'],
  ['t', 'on the Round: tick all that is due'],
  ['Enter', 'on the Bench: next row'],
  ['Ctrl Enter', 'on the Bench: save the session'],
  ['left and right arrows', 'on the Sheet: earlier, later'],
  ['+ and −', 'on the Sheet: closer, wider'],
  ['0', 'on the Sheet: back to now'],
  ['a', 'on the Sheet: add a reading, or plan'],
  ['arrows, Enter', 'on work that is due: try another day, save it'],
  ['Delete', 'on work that is due: skip it, or remove it'],
  ['?', 'these shortcuts'],
]
</script>

<template>
  <v-dialog :model-value="modelValue" @update:model-value="emit('update:modelValue', $event)">
    <v-card title="Shortcuts">
      <v-card-text>
        <label class="switch">
          <input v-model="keysOn" type="checkbox" /> single-key shortcuts on this device
        </label>
        <dl>
          <template v-for="place in places" :key="place.key">
            <dt>{{ place.key }}</dt>
            <dd>{{ place.name }}</dd>
          </template>
          <template v-for="[key, words] in more" :key="key">
            <dt>{{ key }}</dt>
            <dd>{{ words }}</dd>
          </template>
        </dl>
      </v-card-text>
      <v-card-actions><v-btn @click="emit('update:modelValue', false)">Close</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.switch {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin-bottom: 12px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 18px;
}
dt {
  font-weight: 600;
}
</style>
