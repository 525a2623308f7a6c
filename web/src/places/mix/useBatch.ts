import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, command, ProblemError, type Schemas } from '../../api/client'
import { batchQuery, useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

export type Happened = Partial<Schemas['EventBody']> & { kind: Schemas['BatchKind'] }

/** One batch: what happens to it is recorded, and can be taken back. */
export function useBatch(id: number) {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const { data, error, refetch } = useQuery(() => batchQuery(id))
  const params = { path: { batch_id: id } }

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
  const happened = (what: Happened) =>
    run(() => {
      const body = { amount: '', item: '', ...what }
      return command((header) =>
        api.POST('/api/batches/{batch_id}/events', { params: { ...params, header }, body }),
      )
    })
  const correct = () =>
    run(() =>
      command((header) => api.POST('/api/batches/{batch_id}/correct', { params: { ...params, header } })),
    )
  return { data, error, refetch, refused, busy, happened, correct }
}
