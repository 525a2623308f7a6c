<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import { BASE } from '../../parts/example'
import PictureInput from '../../parts/PictureInput.vue'
import { usePictures, type Picture } from '../../parts/usePictures'
import WhenField from '../../parts/WhenField.vue'
import CoverChoice from './CoverChoice.vue'
import FrameCamera from './FrameCamera.vue'
import type { Cover } from './useProgramme'

/** The weekly look: a picture from the same place, and how much there is. */
const props = defineProps<{
  system: number
  sheet: Schemas['ProgrammeSheet']
  busy: boolean
  wrong: string
}>()
const emit = defineEmits<{ review: [coverage: Cover, when: string, picture: number | null] }>()
const chosen = ref<Cover | ''>('')
const when = ref('')
const picture = ref<Picture>()
const aiming = ref(false)
const { bring, busy: saving, refused } = usePictures(() => props.system)

async function take(files: FileList | File[]) {
  const [kept] = await bring([files[0]!], { subject: props.sheet.subject })
  if (kept) picture.value = kept.picture
  if (kept) aiming.value = false
}
</script>

<template>
  <form class="card" @submit.prevent="chosen && emit('review', chosen, when, picture?.id ?? null)">
    <div class="part-head">
      <h2>How much is there now?</h2>
      <span class="soft">next look: {{ sheet.review_due }}</span>
    </div>
    <CoverChoice v-model="chosen" :coverages="sheet.coverages" label="How much is there now?" />
    <FrameCamera
      v-if="aiming"
      :frame="sheet.frame ? BASE + sheet.frame : ''"
      @taken="(file) => take([file])"
      @close="aiming = false"
    />
    <div class="ways">
      <img v-if="picture" :src="BASE + picture.thumb" :alt="picture.words" />
      <button v-if="!aiming" class="plain-link" type="button" @click="aiming = true">
        {{ sheet.frame ? 'camera with the last picture over it' : 'camera' }}
      </button>
      <PictureInput label="choose a picture" :busy="!!saving" @files="take" />
      <WhenField v-model="when" label="Looked earlier?" />
      <v-btn type="submit" :disabled="!chosen || busy">Record this look</v-btn>
    </div>
    <p v-if="refused || wrong" class="magenta" role="alert">{{ refused || wrong }}</p>
  </form>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  padding: 12px 16px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 18px;
}
img {
  width: 84px;
  border-radius: 4px;
}
</style>
