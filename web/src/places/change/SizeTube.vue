<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

const props = defineProps<{ modelValue: number; largest: number; litres?: Schemas['Shown'] }>()
const emit = defineEmits<{ 'update:modelValue': [percent: number] }>()
const TOP = computed(() => (props.largest > 50 ? 100 : 50))
const marks = computed(() => [0, 1, 2, 3, 4, 5].map((part) => (part * TOP.value) / 5))
const share = (percent: number) => `${Math.min(100, Math.max(0, (percent / TOP.value) * 100))}%`
const size = computed(() => (Number.isFinite(props.modelValue) ? props.modelValue : 0))
const words = computed(() =>
  !size.value
    ? ''
    : props.litres
      ? `${props.litres.text} ${props.litres.unit} · ${size.value} %`
      : `${size.value} %`,
)
</script>

<template>
  <div class="size">
    <span class="label" :style="{ left: `min(${share(size)}, calc(100% - 70px))` }">{{ words }}</span>
    <div class="tube" aria-hidden="true">
      <div class="water" :style="{ width: share(size) }" />
      <div class="past" :style="{ left: share(largest) }"><span>more than your usual maximum</span></div>
      <div class="mark" :style="{ left: share(size) }" />
    </div>
    <input
      type="range"
      min="1"
      :max="TOP"
      step="0.5"
      :value="size"
      aria-label="Size of the change in percent"
      :aria-valuetext="words"
      @input="emit('update:modelValue', Number(($event.target as HTMLInputElement).value))"
    />
    <div class="ticks" aria-hidden="true">
      <span v-for="percent in marks" :key="percent" :style="{ left: share(percent) }">{{ percent }} %</span>
    </div>
  </div>
</template>

<style scoped>
.size {
  position: relative;
  margin: 12px 12px 8px;
  padding-top: 22px;
}
.label {
  position: absolute;
  top: 0;
  font-weight: 700;
  color: var(--magenta);
  white-space: nowrap;
  transform: translateX(-50%);
}
.label {
  transform: none;
}
.tube {
  position: relative;
  height: 22px;
  border: 1px solid var(--ink);
  border-radius: 11px;
  background: var(--card);
  overflow: hidden;
}
.water,
.past,
.mark {
  position: absolute;
  top: 0;
  bottom: 0;
}
.water {
  left: 0;
  background: var(--deep);
}
.past {
  right: 0;
  border-left: 1px solid var(--soft);
  background: repeating-linear-gradient(135deg, transparent 0 5px, var(--line) 5px 6px);
  font-size: 0.8rem;
  font-style: italic;
  color: var(--soft);
  padding-left: 8px;
  line-height: 20px;
  white-space: nowrap;
}
.past span {
  background: var(--card);
  padding: 0 4px;
}
.mark {
  width: 3px;
  background: var(--magenta);
}
input {
  position: absolute;
  top: 18px;
  left: 0;
  width: 100%;
  height: 30px;
  opacity: 0;
  cursor: ew-resize;
}
.size:focus-within .tube {
  outline: 2px solid var(--magenta);
  outline-offset: 2px;
}
.ticks {
  position: relative;
  height: 20px;
  font-size: 0.8rem;
  color: var(--soft);
}
.ticks span {
  position: absolute;
  white-space: nowrap;
  transform: translateX(-50%);
}
.ticks span:first-child {
  transform: none;
}
.ticks span:last-child {
  transform: translateX(-100%);
}
</style>
