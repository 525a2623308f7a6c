import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, command } from '../api/client'
import { useRefresh } from '../api/queries'
import { useNotices } from './notices'
import { isoDay, wall } from './wall'

export interface CareItem {
  task: string
  due: string
  step_id?: number | null
  title?: string
  name?: string
}
export type Care = ReturnType<typeof useCare>

/** What can be done with a task, wherever it is shown: done, moved, skipped with a reason, started at the tank. */
export function useCare() {
  const router = useRouter()
  const notices = useNotices()
  const refresh = useRefresh()
  const skipping = ref<{ system: number; item: CareItem }>()
  const body = (item: CareItem) => ({ task: item.task, due: item.due, step_id: item.step_id ?? null })

  /** Run a command; what it did is said before anything is fetched anew, so that its way back is the one offered. */
  async function attempt<T>(act: () => Promise<T>, say?: (done: T) => void): Promise<T | undefined> {
    try {
      const done = await act()
      say?.(done)
      return done
    } catch (fault) {
      notices.fail(fault)
      return undefined
    } finally {
      await refresh()
    }
  }
  async function done(system: number, item: CareItem) {
    const params = { path: { system_id: system } }
    await attempt(
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/care/done', { params: { ...params, header }, body: body(item) }),
        ),
      notices.recorded,
    )
  }
  async function move(system: number, item: CareItem, day: string, from?: string) {
    const params = { path: { system_id: system } }
    const send = (to: string) =>
      command((header) =>
        api.POST('/api/systems/{system_id}/care/move', {
          params: { ...params, header },
          body: { ...body(item), day: to },
        }),
      )
    await attempt(
      () => send(day),
      (kept) => notices.say(kept.words, from ? () => send(from) : undefined),
    )
  }
  async function tomorrow(system: number, item: CareItem) {
    const { data } = await api.GET('/api/harbour')
    if (data) await move(system, item, isoDay(wall(data.now) + 86_400_000), data.today)
  }
  /** Throws a ProblemError for the dialog to show at its field. */
  async function skip(reason: string) {
    const asked = skipping.value
    if (!asked) return
    const kept = await command((header) =>
      api.POST('/api/systems/{system_id}/care/skip', {
        params: { path: { system_id: asked.system }, header },
        body: { ...body(asked.item), reason },
      }),
    )
    skipping.value = undefined
    notices.recorded(kept)
    await refresh()
  }
  /** Start at the tank: a planned step by its number, a batch, or a system with one of its runbooks. */
  async function start(work: number | { batch_id: number } | { system_id: number; runbook: string }) {
    const body = { runbook: '', ...(typeof work === 'number' ? { step_id: work } : work) }
    const run = await attempt(() => command((header) => api.POST('/api/runs', { params: { header }, body })))
    if (run) await router.push({ name: 'run', params: { run: run.id } })
  }
  type Place = 'change' | 'bench' | 'rota' | 'sheet' | 'mix' | 'containers' | 'correction' | 'dosing'
  function go(name: Place, system?: number, hash = '') {
    void router.push({ name, params: system ? { system } : {}, hash })
  }
  function askSkip(system: number, item: CareItem) {
    skipping.value = { system, item }
  }
  function leaveSkip() {
    skipping.value = undefined
  }
  return { skipping, done, move, tomorrow, skip, askSkip, leaveSkip, start, go }
}
