import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { ProblemError } from './client'

/**
 * Follow an input with previews: each change asks again a moment later, and an older answer never overtakes a newer.
 * `problem` says what is wrong with the present input: then there is no answer. Only where the server does not answer
 * does the last one stay.
 */
export function usePreview<In, Out>(
  input: Ref<In> | (() => In),
  ask: (value: In, signal: AbortSignal) => Promise<Out> | undefined,
  delay = 60,
) {
  const result = shallowRef<Out>()
  const problem = shallowRef<ProblemError>()
  const busy = ref(false)
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: AbortController | undefined
  let begun = false

  async function run(value: In) {
    running?.abort()
    const mine = (running = new AbortController())
    const asked = ask(value, mine.signal)
    if (!asked) return
    busy.value = true
    try {
      result.value = await asked
      problem.value = undefined
    } catch (fault) {
      if (mine.signal.aborted) return
      if (!(fault instanceof ProblemError)) throw fault
      problem.value = fault
      if (fault.problem.status !== 0) result.value = undefined
    } finally {
      if (running === mine) busy.value = false
    }
  }
  watch(
    input,
    (value) => {
      clearTimeout(timer)
      timer = setTimeout(() => void run(value as In), begun ? delay : 0)
      begun = true
    },
    { deep: true, immediate: true },
  )
  onScopeDispose(() => {
    clearTimeout(timer)
    running?.abort()
  })
  return { result, problem, busy }
}
