import type { RouteLocationRaw } from 'vue-router'
import type { Schemas } from '../../api/client'
import type { Place } from '../../parts/places'

/** Something to go to. */
export interface Target {
  key: string
  title: string
  detail: string
  kind: string
  to: RouteLocationRaw
}
const KINDS: Record<Schemas['Found'], string> = {
  system: 'system',
  parameter: 'parameter',
  task: 'task',
  animal: 'animal',
  salt: 'salt',
  additive: 'additive',
  food: 'food',
  instrument: 'instrument',
  entry: 'in the log',
}

/** Where a hit of the server leads. */
export function targetOf(hit: Schemas['HitShown']): Target {
  const params = { system: hit.system_id ?? undefined }
  const lead: Record<Schemas['Found'], RouteLocationRaw> = {
    system: { name: 'sheet', params },
    parameter: { name: 'sheet', params },
    task: { name: 'task', params: { ...params, task: hit.key } },
    animal: { name: 'setup', params },
    salt: { name: 'shelf' },
    additive: { name: 'shelf' },
    food: { name: 'shelf' },
    instrument: { name: 'shelf' },
    entry: { name: 'log', query: { system: hit.system_id, first: hit.day, last: hit.day } },
  }
  const { title, detail, kind } = hit
  return {
    key: `${kind} ${hit.system_id} ${hit.key} ${title}`,
    title,
    detail,
    kind: KINDS[kind],
    to: lead[kind],
  }
}

/** The places that have every word of a text; with a system's name beside it where it is one of theirs. */
export function placesNamed(
  text: string,
  places: Place[],
  systems: { id: number; name: string }[],
): Target[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (title: string) => {
    const held = title.toLowerCase().split(/[\s,-]+/)
    return words.length > 0 && words.every((word) => held.some((one) => one.startsWith(word)))
  }
  const all = places.flatMap((place): Target[] => {
    const to = place.to as { name: string; params?: Record<string, number> }
    if (!to.params) return [{ key: place.name, title: place.name, detail: '', kind: 'place', to }]
    return systems.map((system) => ({
      key: `${place.name} ${system.id}`,
      title: `${place.name}, ${system.name}`,
      detail: '',
      kind: 'place',
      to: { ...to, params: { system: system.id } },
    }))
  })
  return all.filter((one) => has(one.title))
}
