import { computed, reactive, ref, watch } from 'vue'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import { typed } from '../../parts/numbers'

/** A variant as it is typed: numbers stay text until they are sent. */
export interface Draft {
  name: string
  percent: string
  every_days: string
  continuous: boolean
  salt_id: number
  dosing: Schemas['Dosing']
  alkalinity: string
  food_percent: string
  correction: Schemas['CorrectionBody'][]
  plan?: string
}
export const LETTERS = ['A', 'B', 'C'] as const

export function useWhatIf(system: number, offer: Schemas['WhatIfOffer']) {
  const notices = useNotices()
  const refresh = useRefresh()
  const store = `salttide.whatif.${system}`
  const drafts = reactive<Draft[]>(restored(store) ?? offer.variants.map(draftOf))
  const days = ref(56)
  watch(drafts, (kept) => localStorage.setItem(store, JSON.stringify(kept)), { deep: true })

  const turn = ref(0)
  const asked = computed(() => ({ variants: drafts.map(sent), days: days.value, turn: turn.value }))
  const { result, problem, busy } = usePreview(
    asked,
    ({ variants, days: length }, signal) =>
      answer(
        api.POST('/api/systems/{system_id}/whatif', {
          params: { path: { system_id: system } },
          body: { variants, days: length },
          signal,
        }),
      ),
    120,
  )
  /** What is wrong with one variant, by field. */
  function wrong(place: number): Record<string, string> {
    const found = problem.value?.problem.fields ?? []
    const mine = found.filter((each) => each.field.startsWith(`variants.${place}.`))
    return Object.fromEntries(mine.map((each) => [each.field.split('.').at(-1)!, each.message]))
  }
  function add() {
    drafts.push({ ...drafts.at(-1)!, name: 'another way' })
  }
  /** Ask again: something on the shelf is new. */
  const again = () => (turn.value += 1)
  /** Put a plan beside the others: in a free place, or in place of the last. */
  function take(variant: Schemas['VariantBody']) {
    const before = drafts.map((draft) => ({ ...draft }))
    if (drafts.length === LETTERS.length) drafts.pop()
    drafts.push(draftOf(variant))
    notices.say('The plan is in the comparison.', async () => drafts.splice(0, drafts.length, ...before))
  }
  function remove(place: number) {
    const [gone] = drafts.splice(place, 1)
    notices.say('Removed from the comparison.', async () => drafts.splice(place, 0, gone!))
  }
  function restart() {
    const before = drafts.map((draft) => ({ ...draft }))
    drafts.splice(0, drafts.length, ...offer.variants.map(draftOf))
    notices.say('Started over.', async () => drafts.splice(0, drafts.length, ...before))
  }
  async function adopt(place: number) {
    const path = { system_id: system }
    try {
      const kept = await command((header) =>
        api.POST('/api/systems/{system_id}/whatif/adopt', {
          params: { path, header },
          body: sent(drafts[place]!),
        }),
      )
      notices.say(kept.words, async () => {
        await command((header) =>
          api.POST('/api/record/{command}/undo', { params: { path: { command: kept.command }, header } }),
        )
        await refresh()
      })
      await refresh()
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      notices.fail(fault)
    }
  }
  return { drafts, days, result, problem, busy, wrong, add, again, take, remove, restart, adopt }
}

function draftOf(variant: Schemas['VariantBody']): Draft {
  return {
    name: variant.name,
    percent: String(variant.percent),
    every_days: String(variant.every_days),
    continuous: variant.continuous,
    salt_id: variant.salt_id,
    dosing: variant.dosing,
    alkalinity: variant.alkalinity == null ? '' : String(variant.alkalinity),
    food_percent: String(variant.food_percent),
    correction: variant.correction ?? [],
    plan: variant.plan ?? '',
  }
}
function sent(draft: Draft): Schemas['VariantBody'] {
  return {
    name: draft.name,
    percent: typed(draft.percent),
    every_days: draft.continuous ? 1 : typed(draft.every_days),
    continuous: draft.continuous,
    salt_id: draft.salt_id,
    dosing: draft.dosing,
    alkalinity: draft.alkalinity.trim() ? typed(draft.alkalinity) : null,
    food_percent: typed(draft.food_percent),
    correction: draft.correction ?? [],
    plan: draft.plan ?? '',
  }
}
function restored(store: string): Draft[] | undefined {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? 'null') as Draft[] | null
    return kept?.length && kept.every((draft) => typeof draft.percent === 'string') ? kept : undefined
  } catch {
    return undefined
  }
}
