<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { picturesQuery, useRefresh } from '../../api/queries'
import FieldText from '../../parts/FieldText.vue'
import { useNotices } from '../../parts/notices'
import PictureInput from '../../parts/PictureInput.vue'
import { usePictures, type Picture } from '../../parts/usePictures'
import Waiting from '../../parts/Waiting.vue'
import SideBySide from './SideBySide.vue'
import DateField from '../../parts/DateField.vue'
import { BASE } from '../../parts/example'

/** The pictures of a system by date; two of them are set side by side. */
const route = useRoute()
const id = Number(route.params.system)
const { data, error, refetch } = useQuery(() => picturesQuery(id))
const notices = useNotices()
const refresh = useRefresh()
const said = ref({ subject: '', note: '', day: '' })
const { bring, busy, refused } = usePictures(() => id)
const subject = ref('')
const chosen = ref<number[]>([])
const shown = computed(
  () => data.value?.pictures.filter((one) => !subject.value || one.subject === subject.value) ?? [],
)
const pair = computed(() =>
  chosen.value
    .map((number) => data.value?.pictures.find((one) => one.id === number))
    .filter((one): one is Picture => !!one)
    .sort((a, b) => shown.value.indexOf(b) - shown.value.indexOf(a)),
)
async function add(files: FileList) {
  const kept = await bring(files, said.value)
  if (kept.length === 1) notices.recorded(kept[0]!)
  else if (kept.length) notices.say(`${kept.length} pictures saved.`)
  said.value.note = ''
  await refresh()
}
function touch(one: Picture) {
  const others = chosen.value.filter((number) => number !== one.id)
  chosen.value = others.length < chosen.value.length ? others : [...others.slice(-1), one.id]
}
</script>

<template>
  <div class="page">
    <Waiting v-if="!data" :error="error" :retry="refetch" />
    <template v-else>
      <div class="page-head">
        <h1>Pictures, {{ data.name }}</h1>
        <span class="soft">{{ chosen.length === 2 ? 'side by side' : 'tap two to compare them' }}</span>
      </div>
      <SideBySide v-if="pair.length === 2" :pair="pair" @close="chosen = []" />
      <p v-if="!data.pictures.length" class="note">
        No picture yet. The same corner from the same place, every few weeks, tells more than any number.
      </p>
      <p v-if="data.subjects.length > 1" class="subjects">
        <button class="chip" :class="{ on: !subject }" type="button" @click="subject = ''">all</button>
        <button
          v-for="one in data.subjects"
          :key="one"
          class="chip"
          :class="{ on: subject === one }"
          type="button"
          @click="subject = one"
        >
          {{ one }}
        </button>
      </p>
      <ul class="grid">
        <li v-for="one in shown" :key="one.id">
          <button type="button" :aria-pressed="chosen.includes(one.id)" @click="touch(one)">
            <img :src="BASE + one.thumb" :alt="one.words" loading="lazy" />
            <span>{{ one.subject || 'picture' }}</span>
            <span class="soft">{{ one.day }}</span>
          </button>
        </li>
      </ul>
      <div class="card add">
        <div class="fields">
          <FieldText v-model="said.subject" label="What it shows" type="text" />
          <FieldText v-model="said.note" label="Note" type="text" />
          <DateField v-model="said.day" label="Taken on (empty: today)" />
        </div>
        <PictureInput label="add pictures" many :busy="!!busy" @files="add" />
        <p class="note">The location and camera details that a phone writes into a picture are removed.</p>
        <p v-if="refused" class="magenta" role="alert">{{ refused }}</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.add {
  display: grid;
  gap: 10px;
  padding: 14px 18px;
  margin-top: 14px;
}
.subjects {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 12px;
}
.grid {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 12px;
}
.grid button {
  display: grid;
  gap: 2px;
  width: 100%;
  text-align: left;
  padding: 6px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  cursor: pointer;
}
.grid button[aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 -3px var(--ink);
}
.grid img {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
}
</style>
