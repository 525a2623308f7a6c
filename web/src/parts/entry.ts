import { defineStore } from 'pinia'
import { ref } from 'vue'

/** A line that a page asks the quick entry to open with, for the keeper to look at and save. */
export const useEntry = defineStore('entry', () => {
  const asked = ref('')
  return { asked }
})
