import { useQuery } from '@pinia/colada'
import { api, command, type Schemas } from '../../api/client'
import { batchQuery } from '../../api/queries'
import { useCommands } from '../../parts/useCommands'

export type Happened = Partial<Schemas['EventBody']> & { kind: Schemas['BatchKind'] }

/** One batch: what happens to it is recorded, and can be taken back. */
export function useBatch(id: number) {
  const { data, error, refetch } = useQuery(() => batchQuery(id))
  const { run, refused, busy } = useCommands()
  const params = { path: { batch_id: id } }

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
