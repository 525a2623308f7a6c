import { reactive, ref } from 'vue'
import { api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import { typed } from '../../parts/numbers'

export type Shelf = ReturnType<typeof useShelf>
type Header = { 'Idempotency-Key': string }
type Call = (header: Header) => Promise<{ data?: Schemas['Recorded']; error?: unknown }>

/** Commands on the shelf; a refusal stands at its field, in the part that was sent, until the next try. */
export function useShelf() {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const at = ref('')
  const wrong = (place: string, field: string) => (at.value === place ? refused.value?.at(field) : undefined)

  /** Send a command; `undo` where the record takes it back. */
  async function send(place: string, call: Call, undo = false): Promise<boolean> {
    refused.value = undefined
    at.value = place
    try {
      const done = await command(call)
      if (undo) notices.recorded(done)
      else notices.say(done.words)
      await refresh()
      return true
    } catch (fault) {
      refused.value = refusal(fault)
      if (!refused.value.problem.fields.length) notices.fail(refused.value)
      return false
    }
  }
  async function away(table: Schemas['Shelved'], id: number, name: string) {
    const path = { table, item_id: id }
    const back = () =>
      command((header) => api.POST('/api/shelf/{table}/{item_id}/restore', { params: { path, header } }))
    try {
      await command((header) =>
        api.POST('/api/shelf/{table}/{item_id}/archive', { params: { path, header } }),
      )
      notices.say(`${name} removed from the Shelf.`, back)
      await refresh()
    } catch (fault) {
      notices.fail(fault)
    }
  }
  return { send, away, wrong }
}

/** One thing on the shelf as it is typed: a new one, or with its number one that is there. */
export function useShelfItem<Form extends { id: number }>(
  acts: Shelf,
  place: string,
  blank: Form,
  call: (form: Form, header: Header) => ReturnType<Call>,
) {
  const form = reactive({ ...blank }) as Form
  const wrong = (field: string) => acts.wrong(place, field)
  const edit = (texts: Form) => Object.assign(form, texts)
  async function keep() {
    if (await acts.send(place, (header) => call(form, header))) Object.assign(form, blank)
  }
  return { form, wrong, edit, keep }
}

/** A number that may be left out. */
export function perhaps(text: string): number | null {
  return text.trim() ? typed(text) : null
}
