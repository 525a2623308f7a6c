import { reactive } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useCommands } from '../../parts/useCommands'

type Body = Schemas['DoseCorrectionBody']
type Aim = Schemas['AimOffer']
const copied = (body: Body) => JSON.parse(JSON.stringify(body)) as Body

/** A correction being planned: what is ticked is brought to its target, the days follow while typing. */
export function useCorrection(system: number, first: Body) {
  const request = reactive<Body>(copied(first))
  const params = { path: { system_id: system } }
  const commands = useCommands()
  const { result, problem } = usePreview(
    () => copied(request),
    (body, signal) =>
      body.aims!.length
        ? answer(api.POST('/api/systems/{system_id}/dosing/correction/preview', { params, body, signal }))
        : undefined,
  )
  const place = (aim: Aim) => request.aims!.findIndex((one) => one.parameter === aim.parameter)
  const taken = (aim: Aim) => request.aims![place(aim)]
  const wrong = (aim: Aim, field = 'target') => {
    const at = `aims.${place(aim)}.${field}`
    return problem.value?.at(at) ?? commands.wrong(at)
  }
  function take(aim: Aim, on: boolean) {
    if (!on) request.aims!.splice(place(aim), 1)
    else
      request.aims!.push({
        parameter: aim.parameter,
        target: aim.target,
        additive_id: aim.additive_ids[0]!,
      })
  }
  const begin = () =>
    commands.run(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/dosing/correction', {
          params: { ...params, header },
          body: copied(request),
        }),
      ),
    )
  return { request, result, problem, taken, take, wrong, begin, busy: commands.busy }
}
