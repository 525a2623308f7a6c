import { reactive } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useCommands } from '../../parts/useCommands'

type Body = Schemas['DayBody']
const copied = (body: Body) => JSON.parse(JSON.stringify(body)) as Body

/** The spread of doses over day and night: the curves follow what is chosen. */
export function useDay(system: number, first: Body) {
  const request = reactive<Body>(copied(first))
  const params = { path: { system_id: system } }
  const commands = useCommands()
  const { result, problem, busy } = usePreview(
    () => copied(request),
    (body, signal) =>
      answer(api.POST('/api/systems/{system_id}/dosing/day/preview', { params, body, signal })),
    250,
  )
  const wrong = (field: string) => problem.value?.at(field) ?? commands.wrong(field)
  const adopt = () =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/dosing/day', {
          params: { ...params, header },
          body: copied(request),
        }),
      ),
    )
  return { request, result, problem, busy, wrong, adopt, keeping: commands.busy }
}
