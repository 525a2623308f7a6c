import { ref } from 'vue'
import { type ProblemError, type Schemas, refusal } from '../api/client'
import { useRefresh } from '../api/queries'
import { useNotices } from './notices'

/** Commands of a place: while one runs it is busy; what is refused is kept for its fields, the rest is said. */
export function useCommands() {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const busy = ref(false)

  /** Run a command whose record is its way back. */
  const run = (act: () => Promise<Schemas['Recorded']>) => attempt(act, (done) => notices.recorded(done))
  /** Run a command with another way back, or none. */
  const runWith = (act: () => Promise<Schemas['Recorded']>, undo: (() => Promise<unknown>) | undefined) =>
    attempt(act, (done) => notices.say(done.words, undo))

  async function attempt(
    act: () => Promise<Schemas['Recorded']>,
    say: (done: Schemas['Recorded']) => void,
  ): Promise<boolean> {
    busy.value = true
    refused.value = undefined
    try {
      say(await act())
      await refresh()
      return true
    } catch (fault) {
      refused.value = refusal(fault)
      if (!refused.value.problem.fields.length) notices.fail(refused.value)
      return false
    } finally {
      busy.value = false
    }
  }
  const wrong = (field: string) => refused.value?.at(field)
  return { busy, refused, run, runWith, wrong }
}
