import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { ProblemError } from './client'

/**
 * Follow an input with previews: each change asks again a moment later, and an older answer never overtakes a newer.
 * The last good answer stays while typing; `problem` says what is wrong with the present input.
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
    } finally {
      if (running === mine) busy.value = false
    }
  }
  watch(
    input,
    (value) => {
      clearTimeout(timer)
      timer = setTimeout(() => void run(value as In), result.value ? delay : 0)
    },
    { deep: true, immediate: true },
  )
  onScopeDispose(() => {
    clearTimeout(timer)
    running?.abort()
  })
  return { result, problem, busy }
}
