import { ref } from 'vue'
import { api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

export type Instrument = Schemas['InstrumentShown']

/** Commands on instruments; a refusal stands at its field until the next try. */
export function useInstruments() {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const at = ref('')
  const wrong = (place: string, field: string) => (at.value === place ? refused.value?.at(field) : undefined)
  const message = (place: string) => (at.value === place ? refused.value?.message : undefined)

  async function send(place: string, act: () => Promise<Schemas['Recorded']>): Promise<boolean> {
    refused.value = undefined
    at.value = place
    try {
      notices.say((await act()).words)
      await refresh()
      return true
    } catch (fault) {
      refused.value = refusal(fault)
      return false
    }
  }
  const add = (body: Schemas['InstrumentBody']) =>
    send('new', () => command((header) => api.POST('/api/instruments', { params: { header }, body })))
  const check = (place: string, body: Schemas['CheckBody']) =>
    send(place, () => command((header) => api.POST('/api/instruments/checks', { params: { header }, body })))
  const reagent = (place: string, body: Schemas['ReagentBody']) =>
    send(place, () =>
      command((header) => api.POST('/api/instruments/reagents', { params: { header }, body })),
    )
  const voidCheck = (place: string, id: number) =>
    send(place, () =>
      command((header) =>
        api.POST('/api/instruments/checks/{check_id}/undo', { params: { path: { check_id: id }, header } }),
      ),
    )
  const away = (place: string, one: Instrument) =>
    send(place, () =>
      command((header) =>
        api.POST('/api/instruments/archive', {
          params: { header },
          body: { name: one.name, parameter: one.parameter as Schemas['NamedBody']['parameter'] },
        }),
      ),
    )
  return { add, check, reagent, voidCheck, away, wrong, message }
}
