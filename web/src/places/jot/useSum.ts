import { computed, ref, type Ref } from 'vue'
import { answer, api, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'

export type JotAnswer = Schemas['JotAnswer']
export interface Kept {
  text: string
  answer: string
}

const TAPE = 'jot-tape'
const LONGEST_TAPE = 8

/** One sum as it is typed, its answer, and the tape of sums that were kept. */
export function useSum(text: Ref<string>, systemId: () => number | undefined) {
  const tape = ref<Kept[]>(JSON.parse(localStorage.getItem(TAPE) ?? '[]') as Kept[])
  const line = computed(() => text.value.trim().replace(/^=\s*/, ''))

  const { result, problem } = usePreview(
    () => ({ line: line.value, system_id: systemId() }),
    (input, signal) =>
      input.line
        ? answer(
            api.POST('/api/jot', { body: { text: `= ${input.line}`, system_id: input.system_id }, signal }),
          ).then((found) => ({ line: input.line, found }))
        : undefined,
  )
  /** The answer to what stands there now, not to what stood there a moment ago. */
  const found = computed<JotAnswer | undefined>(() =>
    problem.value || result.value?.line !== line.value ? undefined : result.value.found,
  )
  /** The line in three parts around the word that is not understood. */
  const wrong = computed(() => {
    const at = problem.value?.problem.fields.find((field) => field.field === 'text')
    if (!line.value || !problem.value) return undefined
    const start = at?.start ?? line.value.length + 2
    const end = at?.end ?? start
    const whole = `= ${line.value}`
    return {
      before: whole.slice(2, start),
      word: whole.slice(Math.max(2, start), end),
      after: whole.slice(end),
      message: at?.message ?? problem.value.message,
    }
  })

  function keep() {
    if (!found.value) return
    const kept = { text: line.value, answer: found.value.text }
    tape.value = [kept, ...tape.value.filter((item) => item.text !== kept.text)].slice(0, LONGEST_TAPE)
    localStorage.setItem(TAPE, JSON.stringify(tape.value))
    text.value = ''
  }
  function clear() {
    tape.value = []
    localStorage.removeItem(TAPE)
  }
  return { line, found, wrong, tape, keep, clear }
}
