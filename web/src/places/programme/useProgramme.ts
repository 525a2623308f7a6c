import { useQuery } from '@pinia/colada'
import { api, command, type Schemas } from '../../api/client'
import { programmeQuery } from '../../api/queries'
import { useCommands } from '../../parts/useCommands'

export type Cover = Schemas['BeginBody']['coverage']

/** One programme of a tank, and what can be done with it. */
export function useProgramme(system: number, key: () => string) {
  const { data, error, refetch } = useQuery(() => programmeQuery({ id: system, key: key() }))
  const acts = useCommands()
  const path = () => ({ system_id: system, programme: key() })
  const begin = (coverage: Cover, wishes: string[]) =>
    acts.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/programmes/{programme}', {
          params: { header, path: path() },
          body: { coverage, wishes },
        }),
      ),
    )
  const review = (coverage: Cover, when: string, picture: number | null) =>
    acts.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/programmes/{programme}/reviews', {
          params: { header, path: path() },
          body: { coverage, when, picture_id: picture },
        }),
      ),
    )
  const goTo = (phase: string) =>
    acts.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/programmes/{programme}/phase', {
          params: { header, path: path() },
          body: { phase },
        }),
      ),
    )
  const turn = (id: number, kind: Schemas['CaseTurnBody']['kind']) =>
    acts.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/cases/{case_id}/turns', {
          params: { header, path: { system_id: system, case_id: id } },
          body: { kind, because: '' },
        }),
      ),
    )
  return { data, error, refetch, acts, begin, review, goTo, turn }
}
