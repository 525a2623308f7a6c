import { reactive, shallowRef, watch } from 'vue'
import { answer, api, command, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useDraft } from '../../parts/draft'
import { useCommands } from '../../parts/useCommands'

export type Installation = Schemas['InstallationBody']

/** The installation of a tank while it is edited: what follows is worked out anew after each change. */
export function useInstallation(system: number, stored: Installation) {
  const form = reactive<Installation>(JSON.parse(JSON.stringify(stored)))
  const draft = useDraft(`installation.${system}`, form, true)
  const acts = useCommands()
  const params = { path: { system_id: system } }
  const { result, problem } = usePreview(
    () => JSON.stringify(form),
    (text, signal) =>
      answer(
        api.POST('/api/systems/{system_id}/failures/preview', { params, body: JSON.parse(text), signal }),
      ),
  )
  const wrong = (field: string) => (problem.value ?? acts.refused.value)?.at(field)

  /* The draft goes as soon as it is stored: what comes back by Undo is not taken for it. */
  const save = () =>
    acts.run(async () => {
      const done = await command((header) =>
        api.PUT('/api/systems/{system_id}/installation', { params: { ...params, header }, body: form }),
      )
      draft.forget()
      return done
    })
  /* While something is refused, the drawing and its fields stay as they last were. */
  const drawn = shallowRef<Schemas['FailureBoard']>()
  watch(result, (now) => now && (drawn.value = now))
  return { form, draft, board: result, drawn, busy: acts.busy, wrong, save }
}
