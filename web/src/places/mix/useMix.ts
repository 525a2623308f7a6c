import { reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

export type MixRequest = Schemas['MixBody']
export type Wanted = Schemas['Wanted']

/** A batch being planned: what it is for is ticked, the bill follows while typing. */
export function useMix(first: MixRequest) {
  const request = reactive<MixRequest>(JSON.parse(JSON.stringify(first)) as MixRequest)
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const router = useRouter()
  const notices = useNotices()
  const refresh = useRefresh()
  const { result, problem } = usePreview(
    () => JSON.parse(JSON.stringify(request)) as MixRequest,
    (now, signal) => answer(api.POST('/api/mix/preview', { body: now, signal })),
  )
  const wrong = (field: string) => (problem.value ?? refused.value)?.at(field)
  const place = (one: Wanted) =>
    request.portions.findIndex((each) => each.system_id === one.system_id && each.step_id === one.step_id)

  function take(one: Wanted, on: boolean) {
    const index = place(one)
    if (on && index < 0)
      request.portions.push({
        system_id: one.system_id,
        step_id: one.step_id,
        litres: one.litres,
        salinity: one.salinity,
      })
    else if (!on && index >= 0) request.portions.splice(index, 1)
  }
  function match(parameter: Schemas['Parameter'], on: boolean) {
    request.match = on
      ? [...(request.match ?? []), parameter]
      : (request.match ?? []).filter((each) => each !== parameter)
  }
  async function make() {
    busy.value = true
    refused.value = undefined
    try {
      const made = await command((header) =>
        api.POST('/api/batches', {
          params: { header },
          body: JSON.parse(JSON.stringify(request)) as MixRequest,
        }),
      )
      notices.recorded(made)
      await refresh()
      void router.push({ name: 'batch', params: { batch: made.id } })
    } catch (fault) {
      refused.value = refusal(fault)
      if (!refused.value.problem.fields.length) notices.fail(refused.value)
    } finally {
      busy.value = false
    }
  }
  return { request, result, problem, refused, busy, wrong, place, take, match, make }
}
