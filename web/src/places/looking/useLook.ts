import { computed, reactive, ref, watch } from 'vue'
import { api, command, ProblemError, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import type { Picture } from '../../parts/usePictures'

type Sight = Schemas['SightBody']
interface Draft {
  sights: Record<string, Sight>
  note: string
  pictures: Picture[]
}
export type SightChoice = Schemas['SightChoice']

/** A look-round being put together: kept on this device until the record has it. */
export function useLook(systemId: number) {
  const store = `salttide.look.${systemId}`
  const notices = useNotices()
  const refresh = useRefresh()
  const draft = reactive<Draft>(restored(store))
  const saving = ref(false)
  const problem = ref<ProblemError>()
  watch(draft, (now) => localStorage.setItem(store, JSON.stringify(now)), { deep: true })

  const sights = computed(() => Object.values(draft.sights))
  /** On with the least of it; a second touch says more of it, and after "much" it is off again. */
  function touch(choice: SightChoice, amounts: string[]) {
    const seen = draft.sights[choice.key]
    if (!seen) {
      draft.sights[choice.key] = { kind: choice.key, amount: choice.graded ? amounts[0] : null } as Sight
      return
    }
    const next = choice.graded ? amounts[amounts.indexOf(seen.amount ?? '') + 1] : undefined
    if (next) seen.amount = next as Sight['amount']
    else delete draft.sights[choice.key]
  }
  function startFrom(seen: Sight[]) {
    draft.sights = Object.fromEntries(seen.map((sight) => [sight.kind, { ...sight }]))
  }
  function empty() {
    const before = { sights: draft.sights, note: draft.note }
    draft.sights = {}
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
      if (!(fault instanceof ProblemError)) throw fault
      problem.value = fault
      return false
    } finally {
      saving.value = false
    }
  }
  const path = { system_id: systemId }
  async function keep() {
    const picture_ids = draft.pictures.map((one) => one.id)
    const body = { sights: sights.value, note: draft.note, days_ago: 0, picture_ids }
    const kept = await send(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/looking/looks', { params: { path, header }, body }),
      ),
    )
    if (kept) empty()
    return kept
  }
  const happen = (body: Schemas['HappeningBody']) =>
    send(() =>
      command((header) =>
        api.POST('/api/systems/{system_id}/looking/happenings', { params: { path, header }, body }),
      ),
    )
  return { draft, sights, saving, problem, touch, startFrom, empty, keep, happen }
}

function restored(store: string): Draft {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? '{}') as Partial<Draft>
    return { sights: kept.sights ?? {}, note: kept.note ?? '', pictures: kept.pictures ?? [] }
  } catch {
    return { sights: {}, note: '', pictures: [] }
  }
}
