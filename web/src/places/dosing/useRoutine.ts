import { reactive } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useCommands } from '../../parts/useCommands'

export type DoseRoutine = Schemas['DoseRoutineBody']
const copied = (request: DoseRoutine) => JSON.parse(JSON.stringify(request)) as DoseRoutine

/** The daily dose being planned: the sentence is edited in place, the bill follows while typing. */
export function useRoutine(system: number, first: DoseRoutine) {
  const request = reactive<DoseRoutine>(copied(first))
  const params = { path: { system_id: system } }
  const commands = useCommands()
  const { result, problem } = usePreview(
    () => copied(request),
    (body, signal) => answer(api.POST('/api/systems/{system_id}/dosing/preview', { params, body, signal })),
  )
  const wrong = (field: string) => problem.value?.at(field) ?? commands.wrong(field)
  /** One additive for alkalinity, or two that share it. */
  function part(place: number, id: number | null) {
    const parts = request.alkalinity!
    if (id === null) parts.splice(place, 1)
    else if (parts[place]) parts[place]!.additive_id = id
    else parts.push({ additive_id: id, percent: 100 })
    if (parts.length === 1) parts[0]!.percent = 100
    if (parts.length === 2 && parts[1]!.percent === 100) [parts[0]!.percent, parts[1]!.percent] = [70, 30]
  }
  function share(percent: number) {
    const parts = request.alkalinity!
    parts[0]!.percent = percent
    if (parts[1]) parts[1].percent = Math.round((100 - percent) * 100) / 100
  }
  const adopt = () =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/dosing', { params: { ...params, header }, body: copied(request) }),
      ),
    )
  return { request, result, problem, wrong, part, share, adopt, busy: commands.busy }
}
