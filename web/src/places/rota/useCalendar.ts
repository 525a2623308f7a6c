import { ref } from 'vue'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

type CalendarChoice = Schemas['CalendarBody']

/** The calendar: how it is wanted, its private address, and absences out of another one. */
export function useCalendar(before: () => Schemas['CalendarShown']) {
  const commands = useCommands()
  const put = (body: CalendarChoice) =>
    command((header) => api.PUT('/api/rota/calendar', { params: { header }, body }))

  function keep(request: CalendarChoice) {
    const { entry_type, begins, alarm_minutes } = before()
    const old = { entry_type: entry_type as CalendarChoice['entry_type'], begins, alarm_minutes }
    return commands.runWith(
      () => put(request),
      () => put(old),
    )
  }
  // What programs were given is worth nothing afterwards: there is no way back.
  const newAddress = () =>
    commands.runWith(
      () => command((header) => api.POST('/api/rota/calendar/link', { params: { header } })),
      undefined,
    )
  const dropAddress = () =>
    commands.runWith(
      () => command((header) => api.DELETE('/api/rota/calendar/link', { params: { header } })),
      undefined,
    )
  return { ...commands, keep, newAddress, dropAddress }
}

/** A file of another calendar program: read first, then the absences that are meant are kept. */
export function useAbsences() {
  const commands = useCommands()
  const text = ref('')
  const found = ref<Schemas['AbsenceShown'][]>()
  const chosen = ref<string[]>([])
  const problem = ref('')

  async function read(file: File | undefined) {
    found.value = undefined
    problem.value = ''
    if (!file) return
    text.value = await file.text()
    try {
      const read = await answer(api.POST('/api/rota/away/preview', { body: { text: text.value } }))
      found.value = read.absences
      chosen.value = read.absences.filter((one) => !one.known && !one.remark).map((one) => one.uid)
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      problem.value = `${file.name}: ${fault.at('text') ?? fault.message}`
    }
  }
  async function keep() {
    let kept = ''
    const done = await commands.runWith(
      async () => {
        const recorded = await command((header) =>
          api.POST('/api/rota/away/import', {
            params: { header },
            body: { text: text.value, uids: chosen.value },
          }),
        )
        kept = recorded.command
        return recorded
      },
      () =>
        command((header) =>
          api.POST('/api/rota/away/import/{command}/undo', { params: { path: { command: kept }, header } }),
        ),
    )
    if (done) found.value = undefined
  }
  return { ...commands, found, chosen, problem, read, keep }
}
