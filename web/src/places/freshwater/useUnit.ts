import { computed, reactive } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useDraft } from '../../parts/draft'
import { useCommands } from '../../parts/useCommands'

/** The RO/DI unit while it is edited: what follows is worked out anew after each change. */
export function useUnit(stored: Schemas['FreshWater']) {
  const form = reactive<Schemas['RoUnitBody']>(JSON.parse(JSON.stringify(stored.unit)))
  const draft = useDraft('fresh-water', form, true)
  const acts = useCommands()
  const { result, problem } = usePreview(
    () => JSON.stringify(form),
    (text, signal) => answer(api.POST('/api/fresh-water/preview', { body: JSON.parse(text), signal })),
  )
  const wrong = (field: string) => (problem.value ?? acts.refused.value)?.at(field)
  const put = (body: Schemas['RoUnitBody']) =>
    command((header) => api.PUT('/api/fresh-water', { params: { header }, body }))
  /* The draft goes as soon as it is stored: what comes back by Undo is not taken for it. */
  const save = () =>
    acts.runWith(
      async () => {
        const done = await put(form)
        draft.forget()
        return done
      },
      async () => {
        await put(stored.unit)
        // Undone before the page was asked again, it still holds what was typed.
        Object.assign(form, stored.unit)
      },
    )
  return { form, draft, shown: computed(() => result.value ?? stored), busy: acts.busy, wrong, save }
}
