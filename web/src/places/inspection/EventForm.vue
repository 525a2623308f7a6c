<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import WhenField from '../../parts/WhenField.vue'

/** Something that happened: two touches, a kind and keep. */
const props = defineProps<{
  kinds: { key: string; name: string }[]
  saving: boolean
  wrong?: (field: string) => string | undefined
  keep: (body: Schemas['SystemEventBody']) => Promise<boolean>
}>()
const kind = ref('')
const note = ref('')
const when = ref('')
async function send() {
  if (!(await props.keep({ kind: kind.value, note: note.value, when: when.value }))) return
  kind.value = ''
  note.value = ''
  when.value = ''
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
      <WhenField v-model="when" label="Earlier?" :error="wrong?.('when')" />
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
