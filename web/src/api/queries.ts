import { defineQueryOptions, useQueryCache } from '@pinia/colada'
import { answer, api } from './client'

export const harbourQuery = defineQueryOptions({
  key: ['harbour'],
  query: () => answer(api.GET('/api/harbour')),
})
export const rotaQuery = defineQueryOptions((days: number) => ({
  key: ['rota', days],
  query: () => answer(api.GET('/api/rota', { params: { query: { days } } })),
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
export const recordQuery = defineQueryOptions((id: number) => ({
  key: ['record', id],
  query: () => answer(api.GET('/api/systems/{system_id}/record', { params: { path: { system_id: id } } })),
}))
export const benchQuery = defineQueryOptions((id: number) => ({
  key: ['bench', id],
  query: () => answer(api.GET('/api/systems/{system_id}/bench', { params: { path: { system_id: id } } })),
}))
export const offerQuery = defineQueryOptions((id: number) => ({
  key: ['offer', id],
  query: () => answer(api.GET('/api/systems/{system_id}/change', { params: { path: { system_id: id } } })),
}))
export const setupQuery = defineQueryOptions({
  key: ['setup'],
  query: () => answer(api.GET('/api/setup')),
})
export const keeperQuery = defineQueryOptions({
  key: ['keeper'],
  query: () => answer(api.GET('/api/keeper')),
})
export const sumsQuery = defineQueryOptions({
  key: ['sums'],
  query: () => answer(api.GET('/api/jot')),
})

/** After a command everything that is shown may have moved. */
export function useRefresh() {
  const cache = useQueryCache()
  return () => cache.invalidateQueries()
}
