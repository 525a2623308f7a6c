import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

/** The keeper's time: minutes by weekday and on single days, absences; each with its way back. */
export function useTime(before: () => Schemas['Minutes']) {
  const commands = useCommands()
  const putWeek = (week: number[]) =>
    command((header) => api.PUT('/api/rota/minutes', { params: { header }, body: { week } }))
  const putDay = (day: string, minutes: number | null) =>
    command((header) => api.PUT('/api/rota/minutes/day', { params: { header }, body: { day, minutes } }))
  const drop = (number: number) =>
    command((header) => api.DELETE('/api/rota/away/{number}', { params: { path: { number }, header } }))
  const restore = (number: number) =>
    command((header) => api.POST('/api/rota/away/{number}/restore', { params: { path: { number }, header } }))

  function keepWeek(week: number[]) {
    const old = [...before().week]
    return commands.runWith(
      () => putWeek(week),
      () => putWeek(old),
    )
  }
  function keepDay(day: string, minutes: number | null) {
    const old = before().single.find((one) => one.day === day)?.minutes ?? null
    return commands.runWith(
      () => putDay(day, minutes),
      () => putDay(day, old),
    )
  }
  const goAway = (body: Schemas['AwayBody']) =>
    commands.run(() => command((header) => api.POST('/api/rota/away', { params: { header }, body })))
  const stay = (number: number) =>
    commands.runWith(
      () => drop(number),
      () => restore(number),
    )
  return { ...commands, keepWeek, keepDay, goAway, stay }
}
