import { defineQueryOptions, useQueryCache } from '@pinia/colada'
import { answer, api, type Schemas } from './client'

export const harbourQuery = defineQueryOptions({
  key: ['harbour'],
  query: () => answer(api.GET('/api/harbour')),
})
export const nextQuery = defineQueryOptions({
  key: ['next'],
  query: () => answer(api.GET('/api/next', { params: { query: { most: 6 } } })),
})
export const rotaQuery = defineQueryOptions((days: number) => ({
  key: ['rota', days],
  query: () => answer(api.GET('/api/rota', { params: { query: { days } } })),
}))
export const roundQuery = defineQueryOptions((day: string) => ({
  key: ['rota', 'round', day],
  query: () => answer(api.GET('/api/rota/round', { params: { query: day ? { day } : {} } })),
}))
export const yearQuery = defineQueryOptions({
  key: ['rota', 'year'],
  query: () => answer(api.GET('/api/rota/year')),
})
export const minutesQuery = defineQueryOptions({
  key: ['rota', 'minutes'],
  query: () => answer(api.GET('/api/rota/minutes')),
})
export const workloadQuery = defineQueryOptions({
  key: ['rota', 'workload'],
  query: () => answer(api.GET('/api/rota/workload')),
})
export const calendarQuery = defineQueryOptions({
  key: ['rota', 'calendar'],
  query: () => answer(api.GET('/api/rota/calendar')),
})
export const upkeepQuery = defineQueryOptions((id: number) => ({
  key: ['upkeep', id],
  query: () => answer(api.GET('/api/systems/{system_id}/care', { params: { path: { system_id: id } } })),
}))
export const taskQuery = defineQueryOptions((wanted: { id: number; task: string }) => ({
  key: ['upkeep', wanted.id, wanted.task],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/care/{task}', {
        params: { path: { system_id: wanted.id, task: wanted.task } },
      }),
    ),
}))
export const sheetQuery = defineQueryOptions((wanted: { id: number; back: number; ahead: number }) => ({
  key: ['sheet', wanted.id, wanted.back, wanted.ahead],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/sheet', {
        params: { path: { system_id: wanted.id }, query: { back: wanted.back, ahead: wanted.ahead } },
      }),
    ),
}))
/** Wall-clock milliseconds are sent as if they were UTC: a few hours more on either side do no harm. */
export const probesQuery = defineQueryOptions(
  (wanted: { id: number; start: number; end: number; points: number }) => ({
    key: ['probes', wanted.id, wanted.start, wanted.end, wanted.points],
    query: () =>
      answer(
        api.GET('/api/systems/{system_id}/probes', {
          params: {
            path: { system_id: wanted.id },
            query: {
              start: new Date(wanted.start - 43_200_000).toISOString(),
              end: new Date(wanted.end + 43_200_000).toISOString(),
              points: wanted.points,
            },
          },
        }),
      ),
  }),
)
export const planOfferQuery = defineQueryOptions((id: number) => ({
  key: ['plan-offer', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/plan/offer', { params: { path: { system_id: id } } })),
}))
export const causeQuery = defineQueryOptions((wanted: { id: number; cause: string }) => ({
  key: ['remedy', wanted.id, wanted.cause],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/remedies/{cause}', {
        params: { path: { system_id: wanted.id, cause: wanted.cause } },
      }),
    ),
}))
export const programmesQuery = defineQueryOptions((id: number) => ({
  key: ['programmes', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/programmes', { params: { path: { system_id: id } } })),
}))
export const programmeQuery = defineQueryOptions((wanted: { id: number; key: string }) => ({
  key: ['programmes', wanted.id, wanted.key],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/programmes/{programme}', {
        params: { path: { system_id: wanted.id, programme: wanted.key } },
      }),
    ),
}))
export const reviewQuery = defineQueryOptions({
  key: ['cases'],
  query: () => answer(api.GET('/api/cases')),
})
export const casesQuery = defineQueryOptions((id: number) => ({
  key: ['cases', id],
  query: () => answer(api.GET('/api/systems/{system_id}/cases', { params: { path: { system_id: id } } })),
}))
export const whatIfQuery = defineQueryOptions((id: number) => ({
  key: ['whatif', id],
  query: () => answer(api.GET('/api/systems/{system_id}/whatif', { params: { path: { system_id: id } } })),
}))
export const recordQuery = defineQueryOptions((id: number) => ({
  key: ['record', id],
  query: () => answer(api.GET('/api/systems/{system_id}/record', { params: { path: { system_id: id } } })),
}))
export const benchQuery = defineQueryOptions((id: number) => ({
  key: ['bench', id],
  query: () => answer(api.GET('/api/systems/{system_id}/bench', { params: { path: { system_id: id } } })),
}))
export const lookingQuery = defineQueryOptions((id: number) => ({
  key: ['looking', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/inspection', { params: { path: { system_id: id } } })),
}))
export const judgementQuery = defineQueryOptions((id: number) => ({
  key: ['judgement', id],
  query: () => answer(api.GET('/api/systems/{system_id}/judgement', { params: { path: { system_id: id } } })),
}))
export const breakingInQuery = defineQueryOptions((id: number) => ({
  key: ['breaking-in', id],
  query: () => answer(api.GET('/api/systems/{system_id}/cycling', { params: { path: { system_id: id } } })),
}))
export const rulesQuery = defineQueryOptions((id: number) => ({
  key: ['rules', id],
  query: () => answer(api.GET('/api/systems/{system_id}/rules', { params: { path: { system_id: id } } })),
}))
export const offerQuery = defineQueryOptions((id: number) => ({
  key: ['offer', id],
  query: () => answer(api.GET('/api/systems/{system_id}/change', { params: { path: { system_id: id } } })),
}))
export const confidenceQuery = defineQueryOptions((id: number) => ({
  key: ['confidence', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/confidence', { params: { path: { system_id: id } } })),
}))
export const confidenceOfQuery = defineQueryOptions(
  ({ id, parameter }: { id: number; parameter: Schemas['ConfidenceRow']['parameter'] }) => ({
    key: ['confidence', id, parameter],
    query: () =>
      answer(
        api.GET('/api/systems/{system_id}/confidence/{parameter}', {
          params: { path: { system_id: id, parameter } },
        }),
      ),
  }),
)
export const dosingQuery = defineQueryOptions((id: number) => ({
  key: ['dosing', id],
  query: () => answer(api.GET('/api/systems/{system_id}/dosing', { params: { path: { system_id: id } } })),
}))
export const correctionQuery = defineQueryOptions((id: number) => ({
  key: ['correction', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/dosing/correction', { params: { path: { system_id: id } } })),
}))
export const dayQuery = defineQueryOptions((id: number) => ({
  key: ['day-night', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/dosing/day', { params: { path: { system_id: id } } })),
}))
export const containersQuery = defineQueryOptions((id: number) => ({
  key: ['containers', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/containers', { params: { path: { system_id: id } } })),
}))
export const stockQuery = defineQueryOptions({
  key: ['stock'],
  query: () => answer(api.GET('/api/stock')),
})
export const steppedQuery = defineQueryOptions((id: number) => ({
  key: ['stepped', id],
  query: () => answer(api.GET('/api/systems/{system_id}/ramp', { params: { path: { system_id: id } } })),
}))
export const mixQuery = defineQueryOptions({
  key: ['mix'],
  query: () => answer(api.GET('/api/mix')),
})
export const batchQuery = defineQueryOptions((id: number) => ({
  key: ['batch', id],
  query: () => answer(api.GET('/api/batches/{batch_id}', { params: { path: { batch_id: id } } })),
}))
export const kitQuery = defineQueryOptions((wanted: { id: number; day?: string }) => ({
  key: ['kit', wanted.id, wanted.day ?? ''],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/kit', {
        params: { path: { system_id: wanted.id }, query: wanted.day ? { day: wanted.day } : {} },
      }),
    ),
}))
export const emergenciesQuery = defineQueryOptions((id: number) => ({
  key: ['emergencies', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/emergencies', { params: { path: { system_id: id } } })),
}))
export const troubleQuery = defineQueryOptions(
  ({ id, ...asked }: { id: number; answers: string[]; skipped: string[]; unlike: string[] }) => ({
    key: ['troubles', id, JSON.stringify(asked)],
    query: () =>
      answer(
        api.GET('/api/systems/{system_id}/troubles', {
          params: { path: { system_id: id }, query: asked },
        }),
      ),
    placeholderData: (before: Schemas['TroubleKey'] | undefined) => before,
  }),
)
export const emergencyQuery = defineQueryOptions(({ id, key }: { id: number; key: string }) => ({
  key: ['emergencies', id, key],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/emergencies/{key}', { params: { path: { system_id: id, key } } }),
    ),
}))
export const alarmsQuery = defineQueryOptions({
  key: ['alarms'],
  query: () => answer(api.GET('/api/alarms')),
})
export const openAlarmsQuery = defineQueryOptions({
  key: ['alarms', 'open'],
  query: () => answer(api.GET('/api/alarms/open')),
})
export const systemAlarmsQuery = defineQueryOptions((id: number) => ({
  key: ['system-alarms', id],
  query: () => answer(api.GET('/api/systems/{system_id}/alarms', { params: { path: { system_id: id } } })),
}))
export const freshWaterQuery = defineQueryOptions((days: number) => ({
  key: ['fresh-water', days],
  query: () => answer(api.GET('/api/fresh-water', { params: { query: { days } } })),
}))
export const failuresQuery = defineQueryOptions((id: number) => ({
  key: ['failures', id],
  query: () => answer(api.GET('/api/systems/{system_id}/failures', { params: { path: { system_id: id } } })),
}))
export const installationQuery = defineQueryOptions((id: number) => ({
  key: ['installation', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/installation', { params: { path: { system_id: id } } })),
}))
export const topOffQuery = defineQueryOptions(({ id, days }: { id: number; days: number }) => ({
  key: ['top-off', id, days],
  query: () =>
    answer(
      api.GET('/api/systems/{system_id}/top-off', {
        params: { path: { system_id: id }, query: { days } },
      }),
    ),
  placeholderData: (before: Schemas['TopOffAnswer'] | undefined) => before,
}))
export const runbooksQuery = defineQueryOptions((id: number) => ({
  key: ['runbooks', id],
  query: () => answer(api.GET('/api/systems/{system_id}/runbooks', { params: { path: { system_id: id } } })),
}))
export const setupQuery = defineQueryOptions({
  key: ['setup'],
  query: () => answer(api.GET('/api/setup')),
})
export const livestockQuery = defineQueryOptions((id: number) => ({
  key: ['livestock', id],
  query: () => answer(api.GET('/api/systems/{system_id}/livestock', { params: { path: { system_id: id } } })),
}))
export const lightQuery = defineQueryOptions((id: number) => ({
  key: ['light', id],
  query: () => answer(api.GET('/api/systems/{system_id}/light', { params: { path: { system_id: id } } })),
}))
export const setupHistoryQuery = defineQueryOptions((id: number) => ({
  key: ['setup-history', id],
  query: () =>
    answer(api.GET('/api/systems/{system_id}/setup/history', { params: { path: { system_id: id } } })),
}))
export const picturesQuery = defineQueryOptions((id: number) => ({
  key: ['pictures', id],
  query: () => answer(api.GET('/api/systems/{system_id}/pictures', { params: { path: { system_id: id } } })),
}))
export const keeperQuery = defineQueryOptions({
  key: ['keeper'],
  query: () => answer(api.GET('/api/keeper')),
})
export const instrumentsQuery = defineQueryOptions({
  key: ['instruments'],
  query: () => answer(api.GET('/api/instruments')),
})
export const handOverQuery = defineQueryOptions((number: number) => ({
  key: ['rota', 'hand-over', number],
  query: () => answer(api.GET('/api/rota/away/{number}/hand-over', { params: { path: { number } } })),
}))
export const gearQuery = defineQueryOptions({
  key: ['rota', 'gear'],
  query: () => answer(api.GET('/api/gear')),
})
export const purchasesQuery = defineQueryOptions({
  key: ['rota', 'purchases'],
  query: () => answer(api.GET('/api/shelf/purchases')),
})
export const shelfQuery = defineQueryOptions({
  key: ['shelf'],
  query: () => answer(api.GET('/api/shelf')),
})
export const logQuery = defineQueryOptions(
  (wanted: {
    system_id?: number
    kind?: string
    parameter?: string
    first?: string
    last?: string
    before?: string
  }) => ({
    key: ['log', wanted],
    query: () => answer(api.GET('/api/log', { params: { query: wanted } })),
  }),
)
export const importsQuery = defineQueryOptions({
  key: ['imports'],
  query: () => answer(api.GET('/api/imports')),
})
export const jotQuery = defineQueryOptions({
  key: ['jot'],
  query: () => answer(api.GET('/api/jot')),
})

/** After a command everything that is shown may have moved. */
export function useRefresh() {
  const cache = useQueryCache()
  return () => cache.invalidateQueries()
}
