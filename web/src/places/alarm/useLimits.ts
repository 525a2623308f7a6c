import { reactive } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { useDraft } from '../../parts/draft'
import { useCommands } from '../../parts/useCommands'

export interface LimitForm {
  on: boolean
  limit: Schemas['AlarmLimitBody']
}

const asForm = (stored: Schemas['SystemAlarms']) => ({
  url: stored.url,
  rows: stored.signals.map((one): LimitForm => ({ on: one.on, limit: { ...one.limit } })),
})
type Form = ReturnType<typeof asForm>

/** The limits of a tank while they are edited. */
export function useLimits(id: number, stored: Schemas['SystemAlarms']) {
  const form = reactive<Form>(JSON.parse(JSON.stringify(asForm(stored))))
  const draft = useDraft(`alarm-limits-${id}`, form, true)
  const acts = useCommands()
  const watched = (from: Form) => from.rows.filter((one) => one.on).map((one) => one.limit)
  const put = (from: Form) =>
    command((header) =>
      api.PUT('/api/systems/{system_id}/alarms', {
        params: { path: { system_id: id }, header },
        body: { limits: watched(from), url: from.url },
      }),
    )
  const save = () =>
    acts.runWith(
      async () => {
        const done = await put(form)
        draft.forget()
        return done
      },
      async () => {
        await put(asForm(stored))
        Object.assign(form, JSON.parse(JSON.stringify(asForm(stored))))
      },
    )
  /** What was refused of a signal's field; of the form itself with no signal. */
  function wrong(signal: string, field: string) {
    const at = watched(form).findIndex((one) => one.signal === signal)
    return acts.wrong(signal ? `limits.${at}.${field}` : field)
  }
  const forget = (signal: string, sensor: string) =>
    acts.runWith(
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/alarms/forget', {
            params: { path: { system_id: id }, header },
            body: { signal, sensor },
          }),
        ),
      undefined,
    )
  const newAddress = () =>
    acts.runWith(
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/alarms/address', {
            params: { path: { system_id: id }, header },
          }),
        ),
      undefined,
    )
  return { form, draft, busy: acts.busy, wrong, save, forget, newAddress }
}
