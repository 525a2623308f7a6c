import { computed, ref, watch, type Ref } from 'vue'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'

export interface Recorded {
  command: string
  words: string
  gone: boolean
}

/** A line that records: how it is understood while it is typed, how it could go on, and what was kept by it. */
export function useRecord(text: Ref<string>, systemId: () => number | undefined) {
  const refresh = useRefresh()
  const refused = ref('')
  const kept = ref<Recorded[]>([])
  const busy = ref(false)
  const { result, problem } = usePreview(
    () => ({ text: text.value, system_id: systemId() }),
    (body, signal) =>
      body.text.trim()
        ? answer(api.POST('/api/jot/reading', { body, signal })).then((read) => ({ text: body.text, read }))
        : undefined,
  )
  /** What stands there now, not what stood there a moment ago. */
  const read = computed(() => (result.value?.text === text.value ? result.value.read : undefined))
  const doubts = computed(() => read.value?.items.some((item) => item.doubts.length) ?? false)
  const wrong = computed(() => {
    if (problem.value && text.value.trim())
      return { before: text.value, word: '', after: '', message: problem.value.message, examples: [] }
    const at = read.value?.wrong
    if (!at) return undefined
    return {
      before: text.value.slice(0, at.start),
      word: text.value.slice(at.start, at.end),
      after: text.value.slice(at.end),
      message: at.message,
      examples: at.examples,
    }
  })
  watch(text, () => (refused.value = ''))

  async function keep(confirmed: boolean) {
    if (busy.value || !text.value.trim()) return
    busy.value = true
    refused.value = ''
    const body = { text: text.value, system_id: systemId(), confirmed }
    try {
      const done = await command((header) => api.POST('/api/jot/record', { params: { header }, body }))
      kept.value = [{ ...done, gone: false }, ...kept.value].slice(0, 6)
      text.value = ''
      await refresh()
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault.message
    } finally {
      busy.value = false
    }
  }
  async function back(item: Recorded) {
    const path = { command: item.command }
    try {
      await command((header) => api.POST('/api/record/{command}/undo', { params: { path, header } }))
      item.gone = true
      await refresh()
    } catch (fault) {
      refused.value = fault instanceof ProblemError ? fault.message : 'Try again.'
    }
  }
  /** Take a phrase that is offered, by default the first. Returns whether there was one. */
  function complete(one: Schemas['Completion'] | undefined = read.value?.completions[0]): boolean {
    if (!one) return false
    text.value = `${text.value.slice(0, one.start)}${one.phrase} `
    return true
  }
  return { read, wrong, doubts, refused, kept, keep, back, complete }
}
