<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'

/** Something that happened: two touches, a kind and keep. */
const props = defineProps<{
  kinds: { key: string; name: string }[]
  saving: boolean
  wrong?: (field: string) => string | undefined
  keep: (body: Schemas['SystemEventBody']) => Promise<boolean>
}>()
const kind = ref('')
const note = ref('')
const ago = ref(0)
const days = [
  { title: 'today', value: 0 },
  { title: 'yesterday', value: 1 },
  { title: '2 days ago', value: 2 },
  { title: '3 days ago', value: 3 },
  { title: 'a week ago', value: 7 },
  { title: 'two weeks ago', value: 14 },
  { title: 'a month ago', value: 30 },
]
async function send() {
  if (!(await props.keep({ kind: kind.value, note: note.value, days_ago: ago.value }))) return
  kind.value = ''
  note.value = ''
  ago.value = 0
}
</script>

<template>
  <form class="happened" novalidate @submit.prevent="send">
    <div class="kinds" role="group" aria-label="What happened">
      <button
        v-for="one in kinds"
        :key="one.key"
        type="button"
        class="chip"
        :class="{ on: kind === one.key }"
        :aria-pressed="kind === one.key"
        @click="kind = kind === one.key ? '' : one.key"
      >
        {{ one.name }}
      </button>
    </div>
    <div v-if="kind" class="more">
      <input
        v-model="note"
        class="field"
        maxlength="1000"
        placeholder="in your words"
        aria-label="What happened, in your words"
        :aria-invalid="!!wrong?.('note')"
      />
      <select v-model="ago" class="quiet" aria-label="When">
        <option v-for="day in days" :key="day.value" :value="day.value">{{ day.title }}</option>
      </select>
      <v-btn type="submit" variant="flat" size="small" :loading="saving">Save</v-btn>
    </div>
    <p v-if="wrong?.('note')" class="magenta" role="alert">{{ wrong('note') }}</p>
  </form>
</template>

<style scoped>
.kinds,
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.more {
  margin-top: 10px;
}
.field {
  flex: 1 1 220px;
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 6px 10px;
  color: var(--ink);
  background: var(--card);
}
</style>
