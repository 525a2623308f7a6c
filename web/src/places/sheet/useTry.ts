import { computed, ref, type Ref } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useCare } from '../../parts/care'
import { useNotices } from '../../parts/notices'

export type CareMark = Schemas['CareMark']
export type NewWork = Schemas['NewWork']
export interface Edit {
  moved?: { mark: CareMark; day: string }
  gone?: CareMark
  added?: NewWork
}
export type Try = ReturnType<typeof useTry>

const refOf = (mark: CareMark) => ({ task: mark.task, due: mark.due, step_id: mark.step_id ?? null })
const FAITHFUL = ['water_change', 'dose']

/** A plan with something moved, left out or added, as it would be: tried while it is dragged or typed, then made. */
export function useTry(system: number, parameters: Ref<string[]>, ahead: Ref<number>) {
  const edit = ref<Edit>()
  const care = useCare()
  const notices = useNotices()
  const refresh = useRefresh()
  const moves = computed(() => {
    const { moved, gone } = edit.value ?? {}
    const task = moved?.mark.task ?? gone?.task
    return task === undefined || FAITHFUL.includes(task)
  })
  const asked = computed(() =>
    edit.value && moves.value
      ? {
          moved: edit.value.moved ? [{ ...refOf(edit.value.moved.mark), day: edit.value.moved.day }] : [],
          gone: edit.value.gone ? [refOf(edit.value.gone)] : [],
          added: edit.value.added ? [edit.value.added] : [],
          ahead: ahead.value,
          parameters: parameters.value as Schemas['Parameter'][],
        }
      : undefined,
  )
  const { result, problem } = usePreview(
    asked,
    (body, signal) =>
      body &&
      answer(
        api.POST('/api/systems/{system_id}/plan/preview', {
          params: { path: { system_id: system } },
          body,
          signal,
        }),
      ),
    20,
  )
  const tried = computed(() =>
    edit.value && moves.value && result.value
      ? Object.fromEntries(result.value.strips.map((strip) => [strip.parameter, strip]))
      : {},
  )
  const doubts = computed(() => (edit.value?.added && result.value?.doubts) || [])

  function attempt(what: Edit) {
    edit.value = what
  }
  function leave() {
    edit.value = undefined
  }
  async function move(mark: CareMark, day: string) {
    if (day !== mark.at.slice(0, 10)) await care.move(system, mark, day, mark.at.slice(0, 10))
    leave()
  }
  async function takeOff(mark: CareMark) {
    if (mark.step_id == null) return care.askSkip(system, mark)
    try {
      const kept = await command((header) =>
        api.POST('/api/systems/{system_id}/plan/steps/{step_id}/withdraw', {
          params: { path: { system_id: system, step_id: mark.step_id! }, header },
        }),
      )
      notices.recorded(kept)
    } catch (fault) {
      notices.fail(fault)
    }
    leave()
    await refresh()
  }
  return { edit, tried, problem, doubts, care, attempt, leave, move, takeOff }
}
