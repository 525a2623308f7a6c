import { api, command, type Schemas } from '../api/client'
import { useCommands } from './useCommands'

export type Upkeep = ReturnType<typeof useUpkeep>
const AS_USUAL: Schemas['ChoiceBody'] = {
  off: false,
  every_days: null,
  minutes: null,
  weekdays: [],
  zones: null,
  limit: null,
}

/** How the tasks of a system are kept: chosen, switched off, added and taken away, each with its way back. */
export function useUpkeep(id: number) {
  const commands = useCommands()
  const path = (task: string) => ({ system_id: id, task })
  const put = (task: string, body: Schemas['ChoiceBody']) =>
    command((header) =>
      api.PUT('/api/systems/{system_id}/care/{task}', { params: { path: path(task), header }, body }),
    )
  const chosen = async (task: string) =>
    (await api.GET('/api/systems/{system_id}/care/{task}', { params: { path: path(task) } })).data?.choice ??
    AS_USUAL

  /** Keep a choice; `before` is what its way back leads to. */
  const choose = (task: string, body: Schemas['ChoiceBody'], before: Schemas['ChoiceBody']) =>
    commands.runWith(
      () => put(task, body),
      () => put(task, before),
    )
  /** Off the rota, or on it again, with everything else as it was chosen. */
  async function turn(task: string, off: boolean) {
    const before = await chosen(task)
    return choose(task, { ...before, off }, before)
  }
  /** On the rota every so many days. */
  async function every(task: string, days: number) {
    const before = await chosen(task)
    return choose(task, { ...before, off: false, every_days: days }, before)
  }
  const add = (body: Schemas['OwnBody']) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/care', { params: { path: { system_id: id }, header }, body }),
      ),
    )
  const drop = (task: string) =>
    command((header) =>
      api.DELETE('/api/systems/{system_id}/care/{task}', { params: { path: path(task), header } }),
    )
  const restore = (task: string) =>
    command((header) =>
      api.POST('/api/systems/{system_id}/care/{task}/restore', { params: { path: path(task), header } }),
    )
  const lastDone = (task: string, day: string) =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/care/{task}/last', {
          params: { path: path(task), header },
          body: { day },
        }),
      ),
    )
  const takeAway = (task: string) =>
    commands.runWith(
      () => drop(task),
      () => restore(task),
    )
  return { ...commands, choose, turn, every, add, lastDone, takeAway }
}
