import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, command, type Schemas } from '../api/client'
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
/** What is told of work that was done: when and minutes as typed, the part, and findings by their key. */
export interface Found {
  when: string
  minutes: string
  zone: string
  found: Record<string, string>
  given: Record<string, string>
}
/** A water change of which the water is asked: a task that is ticked off, one that a round collects, or old ones. */
export interface Changing {
  system: number
  item?: CareItem
  found?: Found
  complete?: boolean
  take?: (changed: Schemas['ChangedBody']) => void
}
const AS_PLANNED: Found = { when: '', minutes: '', zone: '', found: {}, given: {} }
export type Care = ReturnType<typeof useCare>

/** What can be done with a task, wherever it is shown: done, moved, skipped with a reason, started at the tank. */
export function useCare() {
  const router = useRouter()
  const notices = useNotices()
  const refresh = useRefresh()
  const skipping = ref<{ system: number; item: CareItem }>()
  const changing = ref<Changing>()
  /** The task whose card is open, wherever the rota puts it when it is fetched anew. */
  const opened = ref('')
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
  const post = (system: number, item: CareItem, found: Found, changed?: Schemas['ChangedBody']) =>
    command((header) =>
      api.POST('/api/systems/{system_id}/care/done', {
        params: { path: { system_id: system }, header },
        body: { ...body(item), ...found, changed: changed ?? null },
      }),
    )
  const movesWater = (item: CareItem) => item.task === 'water_change' && item.step_id == null
  async function done(system: number, item: CareItem) {
    if (movesWater(item)) return askChange({ system, item })
    await attempt(() => post(system, item, AS_PLANNED), notices.recorded)
  }
  /** Done with what was found; throws a ProblemError for the form to show at its fields. */
  async function doneWith(system: number, item: CareItem, found: Found) {
    if (movesWater(item)) return askChange({ system, item, found })
    notices.recorded(await post(system, item, found))
    await refresh()
  }
  function askChange(work: Changing) {
    changing.value = work
  }
  function leaveChange() {
    changing.value = undefined
  }
  /** The water that was asked for; throws a ProblemError for the dialog to show at its fields. */
  async function changed(water: Schemas['ChangedBody'], entry?: number, when = '') {
    const work = changing.value
    if (!work) return
    if (work.take) work.take(water)
    else if (entry) {
      const path = { system_id: work.system, entry_id: entry }
      notices.recorded(
        await command((header) =>
          api.POST('/api/systems/{system_id}/changed/{entry_id}', { params: { path, header }, body: water }),
        ),
      )
    } else if (work.item)
      notices.recorded(
        await post(
          work.system,
          work.item,
          { ...(work.found ?? AS_PLANNED), ...(when ? { when } : {}) },
          water,
        ),
      )
    leaveChange()
    await refresh()
  }
  async function leaveIncomplete() {
    const system = changing.value?.system
    leaveChange()
    if (system)
      await attempt(
        () =>
          command((header) =>
            api.POST('/api/systems/{system_id}/changed/leave', {
              params: { path: { system_id: system }, header },
            }),
          ),
        notices.recorded,
      )
  }
  /** Move to a day, where it stays; with null it is left to the rota. from: where its way back leads. */
  async function move(system: number, item: CareItem, day: string | null, from?: string | null) {
    const params = { path: { system_id: system } }
    const send = (to: string | null) =>
      command((header) =>
        api.POST('/api/systems/{system_id}/care/move', {
          params: { ...params, header },
          body: { ...body(item), day: to },
        }),
      )
    await attempt(
      () => send(day),
      (kept) => notices.say(kept.words, from !== undefined ? () => send(from) : undefined),
    )
  }
  /** Split over two days; throws a ProblemError for the form to show at its fields. */
  async function split(system: number, item: CareItem, minutes: string, day: string) {
    const params = { path: { system_id: system } }
    const kept = await command((header) =>
      api.POST('/api/systems/{system_id}/care/split', {
        params: { ...params, header },
        body: { ...body(item), minutes, day },
      }),
    )
    // The rest goes by its own day: left to the rota, both are one again.
    notices.say(kept.words, () => move(system, { task: item.task, due: day }, null))
    await refresh()
  }
  /** Let two tasks change places. */
  async function swap(system: number, one: CareItem, other: { system: number; item: CareItem }) {
    const params = { path: { system_id: system } }
    await attempt(
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/care/swap', {
            params: { ...params, header },
            body: { one: body(one), other: body(other.item), other_system_id: other.system },
          }),
        ),
      (kept) => notices.say(kept.words),
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
  async function start(
    work: number | { batch_id: number } | { system_id: number; runbook: string; task?: string },
  ) {
    const body = { runbook: '', task: '', ...(typeof work === 'number' ? { step_id: work } : work) }
    const run = await attempt(() => command((header) => api.POST('/api/runs', { params: { header }, body })))
    if (run) await router.push({ name: 'run', params: { run: run.id } })
  }
  type Place =
    'change' | 'bench' | 'rota' | 'sheet' | 'mix' | 'containers' | 'correction' | 'dosing' | 'alarms'
  function go(name: Place, system?: number, hash = '') {
    void router.push({ name, params: system ? { system } : {}, hash })
  }
  function plan(system: number, cause: string) {
    void router.push({ name: 'remedy', params: { system, cause } })
  }
  function emergency(system: number, sheet: string) {
    void router.push({ name: 'emergency-sheet', params: { system, sheet } })
  }
  function programme(system: number, key: string) {
    void router.push({ name: 'programme', params: { system, key } })
  }
  function askSkip(system: number, item: CareItem) {
    skipping.value = { system, item }
  }
  function leaveSkip() {
    skipping.value = undefined
  }
  const isOpen = (key: string) => opened.value === key
  function setOpen(key: string, on: boolean) {
    if (on) opened.value = key
    else if (isOpen(key)) opened.value = ''
  }
  /** While a form is open in a card, what lies behind it is out of reach. */
  const asking = ref(false)
  const isAsking = () => asking.value
  const setAsking = (on: boolean) => (asking.value = on)
  return {
    isAsking,
    setAsking,
    plan,
    emergency,
    programme,
    changing,
    askChange,
    leaveChange,
    changed,
    leaveIncomplete,
    skipping,
    isOpen,
    setOpen,
    done,
    doneWith,
    move,
    split,
    swap,
    tomorrow,
    skip,
    askSkip,
    leaveSkip,
    start,
    go,
  }
}
