import { computed, reactive, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useCare } from '../../parts/care'
import { useDraft } from '../../parts/draft'
import { useNotices } from '../../parts/notices'

export type ChangeRequest = Schemas['ChangeRequestBody']

/** A change is planned with the batch that the page was opened with. */
function takeBatch(offer: Schemas['Offer'], request: ChangeRequest, batch: number) {
  if (!offer.batches.some((one) => Number(one.key) === batch)) return
  request.water = 'stored'
  request.batch_id = batch
}

/** A water change being planned: the request is edited in place, the plan follows while typing. */
export function useChange(offer: Schemas['Offer'], first: ChangeRequest) {
  const request = reactive<ChangeRequest>({ ...first })
  const draft = useDraft(`change.${offer.system_id}`, request)
  takeBatch(offer, request, Number(useRoute().query.batch))
  const number = ref(0)
  const replace = ref(offer.planned.length > 0)
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const params = { path: { system_id: offer.system_id } }
  const router = useRouter()
  const refresh = useRefresh()
  const notices = useNotices()
  const care = useCare()

  /* What is kept beside the request, such as a hose, moves the plan too. */
  const round = ref(0)
  const { result, problem } = usePreview(
    () => ({ request: { ...request }, round: round.value }),
    (now, signal) =>
      answer(api.POST('/api/systems/{system_id}/change/preview', { params, body: now.request, signal })),
  )
  const again = () => void round.value++
  const step = computed(() => result.value?.steps[Math.min(number.value, result.value.steps.length - 1)])
  const wrong = (field: string) => (problem.value ?? refused.value)?.at(field)

  async function put(): Promise<Schemas['Recorded'] | undefined> {
    busy.value = true
    refused.value = undefined
    try {
      const body = { ...request, replace: replace.value }
      const kept = await command((header) =>
        api.POST('/api/systems/{system_id}/change/plans', { params: { ...params, header }, body }),
      )
      draft.forget()
      void refresh()
      return kept
    } catch (fault) {
      refused.value = refusal(fault)
      return undefined
    } finally {
      busy.value = false
    }
  }
  async function putOnRota() {
    const kept = await put()
    if (!kept) return
    notices.recorded(kept)
    void router.push({ name: 'sheet', params: { system: offer.system_id } })
  }
  async function startNow() {
    if (!(await put())) return
    const { data } = await api.GET('/api/rota', { params: { query: { days: 1 } } })
    const lane = data?.lanes.find((one) => one.system_id === offer.system_id)
    const task = lane?.tasks.find((one) => one.step_id && one.task === 'water_change')
    if (task?.step_id) await care.start(task.step_id)
  }
  return {
    request,
    draft,
    number,
    replace,
    refused,
    busy,
    result,
    problem,
    step,
    wrong,
    again,
    putOnRota,
    startNow,
  }
}
