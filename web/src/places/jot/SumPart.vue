<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { jotQuery } from '../../api/queries'
import CautionNote from '../../parts/CautionNote.vue'
import Working from '../../parts/Working.vue'
import WrongLine from './WrongLine.vue'
import { useSum } from './useSum'

/** A sum in plain words, answered while it is typed. Nothing is recorded by it. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ systemId?: number; systemName?: string }>()
const emit = defineEmits<{ take: [line: string] }>()
const { line, found, wrong, tape, keep, clear } = useSum(text, () => props.systemId)
const { data: examples } = useQuery(jotQuery)
const how = ref(false)
const nearest = computed(() =>
  (examples.value?.sums ?? []).slice(0, 3).map((sum) => sum.replace(/^=\s*/, '')),
)
defineExpose({ keep, wrong })
function take(sum: string) {
  emit('take', sum.replace(/^=\s*/, ''))
}
</script>

<template>
  <div>
    <div id="jot-answer" aria-live="polite">
      <template v-if="found">
        <p class="answer">{{ found.text }}</p>
        <p class="soft understood">{{ found.understood }}</p>
        <ul v-if="found.notes.length" class="notes">
          <li v-for="note in found.notes" :key="note">{{ note }}</li>
        </ul>
      </template>
      <template v-else-if="wrong">
        <WrongLine :wrong="wrong" :examples="nearest" @take="take" />
      </template>
    </div>

    <CautionNote
      v-for="caution in found?.cautions"
      :key="caution.key"
      :caution="caution"
      class="caution-note"
    />
    <template v-if="found?.working.length">
      <button class="plain-link" type="button" :aria-expanded="how" @click="how = !how">
        {{ how ? 'Hide working' : 'Show working' }}
      </button>
      <Working v-if="how" :steps="found.working" />
    </template>

    <div v-if="!line" class="below">
      <template v-if="tape.length">
        <div class="part-head">
          <h2>Earlier sums</h2>
          <button class="plain-link" type="button" @click="clear">Clear</button>
        </div>
        <ul class="list">
          <li v-for="item in tape" :key="item.text">
            <button class="plain-link" type="button" @click="take(item.text)">{{ item.text }}</button>
            <b>{{ item.answer }}</b>
          </li>
        </ul>
      </template>
      <h2>For example</h2>
      <ul class="list">
        <li v-for="sum in examples?.sums" :key="sum">
          <button class="plain-link" type="button" @click="take(sum)">
            {{ sum.replace(/^=\s*/, '') }}
          </button>
        </li>
      </ul>
    </div>
    <p class="note">
      Press Enter to keep the answer in this list. Nothing is recorded.
      <template v-if="systemName">Sums are for {{ systemName }} unless you name another system.</template>
    </p>
  </div>
</template>

<style scoped>
.answer {
  font-size: 2.2rem;
  font-weight: 700;
  line-height: 1.2;
  margin-top: 14px;
}
.understood {
  margin-bottom: 6px;
}
.notes {
  padding-left: 18px;
  margin: 6px 0;
}
.caution-note {
  margin: 10px 0;
}
.note {
  margin-top: 10px;
}
</style>
