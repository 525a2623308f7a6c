import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, command, ProblemError } from '../api/client'

export interface Notice {
  words: string
  undo?: () => Promise<unknown>
  failed?: boolean
}

/** What was just done, with its way back; one at a time at the foot of the page. */
export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice>()
  function say(words: string, undo?: () => Promise<unknown>) {
    notice.value = { words, undo }
  }
  function fail(fault: unknown) {
    const words =
      fault instanceof ProblemError ? fault.message : 'Something went wrong on this page; try again.'
    notice.value = { words, failed: true }
  }
  /** Say what a command recorded; undo takes its entries back. */
  function recorded(done: { command: string; words: string }) {
    say(done.words, () =>
      command((header) =>
        api.POST('/api/record/{command}/undo', { params: { path: { command: done.command }, header } }),
      ),
    )
  }
  return { notice, say, fail, recorded }
})
