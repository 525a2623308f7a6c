import { reactive, ref } from 'vue'
import { answer, api, command, refusal, type Schemas } from '../../api/client'
import { useDraft } from '../../parts/draft'
import { useNotices } from '../../parts/notices'
import { useCommands } from '../../parts/useCommands'

/** Who is told, while it is edited; and a test of each. */
export function useContacts(stored: Schemas['AlarmSetupBody']) {
  const form = reactive<Schemas['AlarmSetupBody']>(JSON.parse(JSON.stringify(stored)))
  const draft = useDraft('alarm-contacts', form, true)
  const acts = useCommands()
  const notices = useNotices()
  const tests = ref<Schemas['TestResult'][]>([])
  const testing = ref('')
  const put = (body: Schemas['AlarmSetupBody']) =>
    command((header) => api.PUT('/api/alarms/setup', { params: { header }, body }))

  const save = () =>
    acts.runWith(
      async () => {
        const done = await put(form)
        draft.forget()
        return done
      },
      async () => {
        await put(stored)
        Object.assign(form, JSON.parse(JSON.stringify(stored)))
      },
    )
  function add() {
    form.contacts.push({ name: '', turn: 1, webhook: '', email: '', quiet_from: null, quiet_to: null })
  }
  function remove(at: number) {
    form.contacts.splice(at, 1)
  }
  async function test(name: string) {
    testing.value = name
    tests.value = []
    try {
      tests.value = await answer(api.POST('/api/alarms/test', { body: { contact: name } }))
    } catch (fault) {
      notices.fail(refusal(fault))
    } finally {
      testing.value = ''
    }
  }
  return { form, draft, busy: acts.busy, wrong: acts.wrong, save, add, remove, test, tests, testing }
}
