import { ref } from 'vue'
import { ProblemError, type Schemas } from '../api/client'
import { useRefresh } from '../api/queries'
import { useNotices } from './notices'

/** Commands of a place: while one runs it is busy; what is refused is kept for its fields, the rest is said. */
export function useCommands() {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const busy = ref(false)

  async function run(act: () => Promise<Schemas['Recorded']>): Promise<boolean> {
    busy.value = true
    refused.value = undefined
    try {
      notices.recorded(await act())
      await refresh()
      return true
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault
      if (!fault.problem.fields.length) notices.fail(fault)
      return false
    } finally {
      busy.value = false
    }
  }
  const wrong = (field: string) => refused.value?.at(field)
  return { busy, refused, run, wrong }
}
