import { ref } from 'vue'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import { typed, written } from '../../parts/numbers'

export type Animal = Schemas['AnimalShown']
export type Livestock = ReturnType<typeof useLivestock>
/** An animal as it is typed. */
export interface AnimalText {
  name: string
  demand: Schemas['Demand']
  count: string
  portions: string
  air_min: string
  tolerances: Record<string, { low: string; high: string }>
  limits: Record<string, string>
}

/** Commands on animals; a refusal stands at its field until the next try. */
export function useLivestock(system: number) {
  const notices = useNotices()
  const refresh = useRefresh()
  const refused = ref<ProblemError>()
  const at = ref<number | 'new'>()
  const wrong = (place: number | 'new', field: string) =>
    at.value === place ? refused.value?.at(field) : undefined

  /** Run a command; what it did is said before anything is fetched anew, so that its way back is the one offered. */
  async function attempt<T>(
    place: number | 'new',
    act: () => Promise<T>,
    say?: (done: T) => void,
  ): Promise<T | undefined> {
    refused.value = undefined
    at.value = place
    try {
      const done = await act()
      say?.(done)
      await refresh()
      return done
    } catch (fault) {
      refused.value = refusal(fault)
      if (!refused.value.problem.fields.length) notices.fail(refused.value)
      return undefined
    }
  }
  async function add(form: AnimalText): Promise<boolean> {
    const path = { system_id: system }
    const kept = await attempt(
      'new',
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/livestock', {
            params: { path, header },
            body: animalBody(form),
          }),
        ),
      notices.recorded,
    )
    return !!kept
  }
  async function edit(animal: number, form: AnimalText): Promise<boolean> {
    const path = { system_id: system, animal_id: animal }
    const kept = await attempt(animal, () =>
      answer(
        api.PUT('/api/systems/{system_id}/livestock/{animal_id}', {
          params: { path },
          body: animalBody(form),
        }),
      ),
    )
    if (kept) notices.say(`${kept.name} saved.`)
    return !!kept
  }
  async function turn(animal: number, body: Schemas['TurnBody']): Promise<boolean> {
    const path = { system_id: system, animal_id: animal }
    const kept = await attempt(
      animal,
      () =>
        command((header) =>
          api.POST('/api/systems/{system_id}/livestock/{animal_id}/changes', {
            params: { path, header },
            body,
          }),
        ),
      notices.recorded,
    )
    return !!kept
  }
  async function away(animal: number) {
    const path = { system_id: system, animal_id: animal }
    const send = (to: 'away' | 'back') =>
      command((header) =>
        to === 'away'
          ? api.POST('/api/systems/{system_id}/livestock/{animal_id}/archive', { params: { path, header } })
          : api.POST('/api/systems/{system_id}/livestock/{animal_id}/restore', { params: { path, header } }),
      )
    const done = await attempt(animal, () => send('away'))
    if (done) notices.say(done.words, () => send('back'))
  }
  return { add, edit, turn, away, wrong }
}

function animalBody(form: AnimalText): Schemas['AnimalBody'] {
  const spans = Object.entries(form.tolerances).filter(([, span]) => span.low.trim() || span.high.trim())
  const limits = Object.entries(form.limits).filter(([, limit]) => limit.trim())
  return {
    name: form.name,
    demand: form.demand,
    count: typed(form.count || '1'),
    portions: typed(form.portions || '0'),
    air_min: form.air_min.trim() ? typed(form.air_min) : null,
    tolerances: Object.fromEntries(
      spans.map(([key, span]) => [key, { low: typed(span.low), high: typed(span.high) }]),
    ),
    limits: Object.fromEntries(limits.map(([key, limit]) => [key, typed(limit)])),
  }
}

/** The form of an animal that is there, or of a new one. */
export function animalText(data: Schemas['LivestockAnswer'], one?: Animal): AnimalText {
  return {
    name: one?.name ?? '',
    demand: one?.demand ?? 'moderate',
    count: String(one?.count ?? ''),
    portions: one?.portions ? written(one.portions) : '',
    air_min: one?.air_min ? written(one.air_min) : '',
    tolerances: Object.fromEntries(
      data.tolerated.map(({ key }) => {
        const span = one?.tolerances?.[key as keyof typeof one.tolerances]
        return [key, { low: written(span?.low ?? ''), high: written(span?.high ?? '') }]
      }),
    ),
    limits: Object.fromEntries(
      data.limits.map(({ parameter }) => [
        parameter,
        written(one?.limits?.[parameter as keyof typeof one.limits] ?? ''),
      ]),
    ),
  }
}
