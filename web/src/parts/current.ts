import { defineStore } from 'pinia'
import { ref, watch } from 'vue'

/** The system the keeper is looking at; remembered on this device. */
export const useCurrent = defineStore('current', () => {
  const id = ref(Number(localStorage.getItem('salttide.system') ?? 1) || 1)
  watch(id, (now) => localStorage.setItem('salttide.system', String(now)))
  return { id }
})
