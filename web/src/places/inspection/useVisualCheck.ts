import { computed, reactive, ref, watch } from 'vue'
import { api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import type { Picture } from '../../parts/usePictures'

type Sign = Schemas['SignBody']
interface Draft {
  signs: Record<string, Sign>
  note: string
  pictures: Picture[]
}
export type SignChoice = Schemas['SignChoice']

/** A visual check being put together: kept on this device until the record has it. */
export function useVisualCheck(systemId: number) {
  const store = `salttide.look.${systemId}`
  const notices = useNotices()
  const refresh = useRefresh()
  const draft = reactive<Draft>(restored(store))
  const saving = ref(false)
  const when = ref('')
  const problem = ref<ProblemError>()
  watch(draft, (now) => localStorage.setItem(store, JSON.stringify(now)), { deep: true })

  const signs = computed(() => Object.values(draft.signs))
  /** On with the least of it; a second touch says more of it, and after "much" it is off again. */
  function touch(choice: SignChoice, amounts: string[]) {
    const seen = draft.signs[choice.key]
    if (!seen) {
      draft.signs[choice.key] = { kind: choice.key, amount: choice.graded ? amounts[0] : null } as Sign
      return
    }
    const next = choice.graded ? amounts[amounts.indexOf(seen.amount ?? '') + 1] : undefined
    if (next) seen.amount = next as Sign['amount']
    else delete draft.signs[choice.key]
  }
  function startFrom(seen: Sign[]) {
    draft.signs = Object.fromEntries(seen.map((sign) => [sign.kind, { ...sign }]))
  }
  function empty() {
    const before = { signs: draft.signs, note: draft.note }
    draft.signs = {}
    draft.note = ''
    draft.pictures = []
    return before
  }
  async function send(act: () => Promise<Schemas['Recorded']>): Promise<boolean> {
    saving.value = true
    problem.value = undefined
    try {
      notices.recorded(await act())
      void refresh()
      return true
    } catch (fault) {
      problem.value = refusal(fault)
      return false
    } finally {
      saving.value = false
    }
  }
  const path = { system_id: systemId }
  async function keep() {
    const picture_ids = draft.pictures.map((one) => one.id)
    const body = { signs: signs.value, note: draft.note, when: when.value, picture_ids }
    const kept = await send(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/inspection/checks', { params: { path, header }, body }),
      ),
    )
    if (kept) {
      empty()
      when.value = ''
    }
    return kept
  }
  const happen = (body: Schemas['SystemEventBody']) =>
    send(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/inspection/events', { params: { path, header }, body }),
      ),
    )
  return { draft, when, signs, saving, problem, touch, startFrom, empty, keep, happen }
}

function restored(store: string): Draft {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? '{}') as Partial<Draft>
    return { signs: kept.signs ?? {}, note: kept.note ?? '', pictures: kept.pictures ?? [] }
  } catch {
    return { signs: {}, note: '', pictures: [] }
  }
}
