<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue'

/** The camera with the last picture laid over it, so that the next one is taken from the same place. */
defineProps<{ frame: string }>()
const emit = defineEmits<{ taken: [file: File]; close: [] }>()
const video = ref<HTMLVideoElement>()
const fault = ref('')
const strength = ref(40)
let stream: MediaStream | undefined

async function open() {
  try {
    stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' }, audio: false })
    if (video.value) video.value.srcObject = stream
  } catch {
    fault.value = 'This device gives no camera here: take the picture with it, and choose the file instead.'
  }
}
function take() {
  const seen = video.value!
  const canvas = document.createElement('canvas')
  canvas.width = seen.videoWidth
  canvas.height = seen.videoHeight
  canvas.getContext('2d')!.drawImage(seen, 0, 0)
  canvas.toBlob(
    (blob) => blob && emit('taken', new File([blob], 'review.jpg', { type: 'image/jpeg' })),
    'image/jpeg',
    0.9,
  )
}
const stop = () => stream?.getTracks().forEach((track) => track.stop())
onBeforeUnmount(stop)
void open()
</script>

<template>
  <div class="camera" role="group" aria-label="Camera">
    <p v-if="fault" class="note" role="alert">{{ fault }}</p>
    <div v-else class="view">
      <video ref="video" autoplay muted playsinline />
      <img v-if="frame" :src="frame" alt="The last picture, to aim by" :style="{ opacity: strength / 100 }" />
    </div>
    <div class="ways">
      <label v-if="frame && !fault"
        >last picture
        <input
          v-model.number="strength"
          type="range"
          min="0"
          max="80"
          aria-label="How strong the last picture shows"
        />
      </label>
      <v-btn v-if="!fault" size="small" @click="take">Take it</v-btn>
      <button class="plain-link" type="button" @click="$emit('close')">close the camera</button>
    </div>
  </div>
</template>

<style scoped>
.view {
  position: relative;
  max-width: 560px;
}
video,
img {
  display: block;
  width: 100%;
  border-radius: 6px;
}
img {
  position: absolute;
  inset: 0;
  height: 100%;
  object-fit: cover;
  pointer-events: none;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
  margin-top: 8px;
}
</style>
