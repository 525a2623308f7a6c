import { useQuery, useQueryCache } from '@pinia/colada'
import { onScopeDispose, ref } from 'vue'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

export type Run = Schemas['RunAnswer']
export type Step = Schemas['OpenStep']
export type Say = Partial<Schemas['AnswerBody']> & { kind: Schemas['AnswerKind'] }
const LOOK_MS = 2500

/** The work at the tank: what is said is stored before the screen moves on; another device sees the same. */
export function useRun(id: number) {
  const notices = useNotices()
  const refresh = useRefresh()
  const cache = useQueryCache()
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const key = ['run', id]
  const params = { path: { run_id: id } }
  const { data, error, refetch } = useQuery({
    key,
    query: () => answer(api.GET('/api/runs/{run_id}', { params })),
  })

  /* What somebody else says is seen within a few seconds. */
  const look = setInterval(() => {
    if (!busy.value && !document.hidden && data.value && !data.value.ended) void refetch()
  }, LOOK_MS)
  onScopeDispose(() => clearInterval(look))

  /* One after the other: a tick and the step it belongs to may not overtake each other. */
  let last: Promise<unknown> = Promise.resolve()
  function attempt(act: () => Promise<Run>): Promise<boolean> {
    const mine = last.then(() => run(act))
    last = mine
    return mine
  }
  async function run(act: () => Promise<Run>): Promise<boolean> {
    busy.value = true
    refused.value = undefined
    try {
      const now = await act()
      cache.setQueryData(key, now)
      if (now.ended) await refresh()
      return true
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault
      if (fault.problem.status === 0) notices.fail(fault)
      else if (fault.problem.status === 409) await refetch()
      return false
    } finally {
      busy.value = false
    }
  }
  function say(step: string, what: Say) {
    return attempt(() => {
      const body = { step, item: '', text: '', seen: data.value?.seen ?? null, ...what }
      return command((header) =>
        api.POST('/api/runs/{run_id}/answers', { params: { ...params, header }, body }),
      )
    })
  }
  function abandon(reason: string) {
    return attempt(() =>
      command((header) =>
        api.POST('/api/runs/{run_id}/abandon', { params: { ...params, header }, body: { reason } }),
      ),
    )
  }
  return { data, error, refetch, refused, busy, say, abandon }
}
