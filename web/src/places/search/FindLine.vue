<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answer, api } from '../../api/client'
import { usePreview } from '../../api/preview'
import type { Place } from '../../parts/places'
import { placesNamed, targetOf, type Target } from './hits'
import LineDialog from '../../parts/LineDialog.vue'

/** Find and go: places, systems, tasks, animals, what is on the Shelf, and what was written in the log. */
const props = defineProps<{
  modelValue: boolean
  systemId?: number
  places: Place[]
  systems: { id: number; name: string }[]
}>()
const emit = defineEmits<{ 'update:modelValue': [open: boolean] }>()
const router = useRouter()
const text = ref('')
const at = ref(0)
const field = ref<HTMLInputElement>()
const { result, busy } = usePreview(text, (now, signal) =>
  now.trim()
    ? answer(api.GET('/api/search', { params: { query: { text: now, system_id: props.systemId } }, signal }))
    : undefined,
)
const targets = computed<Target[]>(() => {
  if (!text.value.trim()) return []
  const found = (result.value ?? []).map(targetOf)
  const named = (one: Target) => one.kind === 'system'
  const places = placesNamed(text.value, props.places, props.systems)
  return [...found.filter(named), ...places, ...found.filter((one) => !named(one))]
})
const chosen = computed(() => Math.min(at.value, targets.value.length - 1))
watch(text, () => (at.value = 0))
watch(
  () => props.modelValue,
  async (open) => {
    if (!open) return
    await nextTick()
    field.value?.focus()
    field.value?.select()
  },
  { immediate: true },
)
function go(target: Target | undefined) {
  if (!target) return
  emit('update:modelValue', false)
  void router.push(target.to)
}
function pressed(event: KeyboardEvent) {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (!step || !targets.value.length) return
  event.preventDefault()
  at.value = (chosen.value + step + targets.value.length) % targets.value.length
  void nextTick(() => document.getElementById(`hit-${at.value}`)?.scrollIntoView({ block: 'nearest' }))
}
</script>

<template>
  <LineDialog
    :model-value="modelValue"
    name="Search"
    @update:model-value="emit('update:modelValue', $event)"
    @submit="go(targets[chosen])"
  >
    <template #line>
      <input
        ref="field"
        v-model="text"
        role="combobox"
        aria-label="Search for a place, a tank, a task, an animal, or a note"
        aria-controls="hits"
        :aria-expanded="targets.length > 0"
        :aria-activedescendant="targets.length ? `hit-${chosen}` : undefined"
        placeholder="bench, Skiff, skimmer, goby …"
        autocomplete="off"
        spellcheck="false"
        maxlength="100"
        @keydown="pressed"
      />
    </template>
    <ul v-if="targets.length" id="hits" role="listbox" aria-label="Found">
      <li
        v-for="(one, index) in targets"
        :id="`hit-${index}`"
        :key="one.key"
        role="option"
        :aria-selected="index === chosen"
        @click="go(one)"
      >
        <span
          ><b>{{ one.title }}</b> <span v-if="one.detail" class="soft">{{ one.detail }}</span></span
        >
        <span class="soft small">{{ one.kind }}</span>
      </li>
    </ul>
    <p v-else-if="text.trim() && !busy && result" class="note">
      Nothing is called that, and no note says it. Try the beginning of a word.
    </p>
    <p v-else-if="!text.trim()" class="note">
      Type the beginning of any word: a place, a tank, a task, an animal, a salt, or something you once noted.
    </p>
  </LineDialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin-top: 8px;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 18px;
  align-items: center;
  min-height: 44px;
  padding: 4px 8px;
  cursor: pointer;
  border-radius: 4px;
}
li[aria-selected='true'],
li:hover {
  background: var(--shallow);
}
.small {
  white-space: nowrap;
}
.note {
  margin-top: 10px;
}
</style>
