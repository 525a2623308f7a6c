import { ref, watch } from 'vue'
import { useEntry } from './entry'

/** The quick entry and calculator: closed until first used, opened by a key, a button, or a page that asks for a line. */
export function useQuickEntry() {
  const jot = ref({ open: false, used: false, mode: 'record' as 'record' | 'sum' })
  const openJot = (mode: 'record' | 'sum') => (jot.value = { open: true, used: true, mode })
  const entry = useEntry()
  watch(
    () => entry.asked,
    (line) => line && openJot('record'),
  )
  return { jot, openJot }
}
