<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { jotQuery } from '../../api/queries'
import WrongLine from './WrongLine.vue'
import { useRecord } from './useRecord'

/** What was measured and done, in plain words: shown as it is understood, saved by Enter, undone in one touch. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ systemId?: number; systemName?: string }>()
const emit = defineEmits<{ take: [line: string] }>()
const record = useRecord(text, () => props.systemId)
const { read, wrong, refused, kept, doubts } = record
const { data: examples } = useQuery(jotQuery)
/** A last word that could still become one is not called wrong. */
const pointed = computed(() => (read.value?.completions.length ? undefined : wrong.value))
defineExpose({ keep: () => record.keep(false), complete: record.complete, wrong: pointed })
</script>

<template>
  <div>
    <div id="jot-answer" aria-live="polite">
      <template v-if="read?.items.length">
        <p class="for">
          <b>{{ read.system }}</b> <span v-if="read.when" class="soft">{{ read.when }}</span>
        </p>
        <ul class="understood">
          <li v-for="item in read.items" :key="item.words">
            {{ item.words }}
            <span v-for="doubt in item.doubts" :key="doubt" class="magenta">{{ doubt }}</span>
          </li>
        </ul>
        <v-btn v-if="doubts" size="small" @click="record.keep(true)">It is right, save it</v-btn>
      </template>
      <template v-else-if="pointed">
        <WrongLine :wrong="pointed" :examples="pointed.examples" @take="emit('take', $event)" />
      </template>
      <p v-if="refused" class="magenta" role="alert">{{ refused }}</p>
    </div>
    <p v-if="read?.completions.length" class="going">
      <button
        v-for="one in read.completions"
        :key="one.phrase"
        class="chip"
        type="button"
        @click="record.complete(one)"
      >
        {{ one.phrase }}
      </button>
    </p>
    <div class="below">
      <template v-if="kept.length">
        <h2>Saved</h2>
        <ul class="list">
          <li v-for="item in kept" :key="item.command" :class="{ gone: item.gone }">
            <span>{{ item.words }}</span>
            <button v-if="!item.gone" class="plain-link" type="button" @click="record.back(item)">
              undo
            </button>
            <span v-else class="soft">undone</span>
          </li>
        </ul>
      </template>
      <template v-if="!text.trim()">
        <h2>For example</h2>
        <ul class="list">
          <li v-for="line in examples?.records" :key="line">
            <button class="plain-link" type="button" @click="emit('take', line)">{{ line }}</button>
          </li>
        </ul>
      </template>
    </div>
    <p class="note">
      Press Enter to save, → to take the first suggestion, = for the calculator.
      <template v-if="systemName">Goes to {{ systemName }} unless you name another system.</template>
    </p>
  </div>
</template>

<style scoped>
.for {
  margin-top: 14px;
}
.understood {
  padding-left: 18px;
  margin: 4px 0 8px;
  font-size: 1.1rem;
}
.understood .magenta {
  display: block;
  font-size: 0.9rem;
}
.going {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 10px;
}
.gone > span:first-child {
  text-decoration: line-through;
  color: var(--soft);
}
.note {
  margin-top: 10px;
}
</style>
