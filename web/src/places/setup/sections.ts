import type { Schemas } from '../../api/client'
import type { Setup } from './setupForm'

/** The parts of a set-up in their order; `stored` ones need a system that exists. */
export const SECTIONS = [
  { key: 'what', title: 'What it is', stored: false },
  { key: 'size', title: 'Size', stored: false },
  { key: 'gear', title: 'Gear, and where it sits', stored: false },
  { key: 'keeping', title: 'How it is kept', stored: false },
  { key: 'methods', title: 'Your methods', stored: false },
  { key: 'bands', title: 'Target bands', stored: false },
  { key: 'limits', title: 'Daily limits', stored: false },
  { key: 'livestock', title: 'Livestock', stored: true },
  { key: 'light', title: 'Light', stored: true },
  { key: 'rules', title: 'Rules of judgement', stored: true },
  { key: 'history', title: 'What was changed', stored: true },
]

/** In which part a refused field stands. */
export function sectionOf(field: string): string {
  const root = field.split('.')[0]!
  const known: Record<string, string> = {
    geometry: 'size',
    gear: 'gear',
    bands: 'bands',
    methods: 'methods',
    limit_salinity: 'limits',
    limit_alkalinity: 'limits',
    limit_temperature: 'limits',
    name: 'what',
    stock: 'what',
    started_on: 'what',
  }
  return known[root] ?? 'keeping'
}

/** What each part has set, in one line. */
export function linesOf(
  setup: Schemas['SetupAnswer'],
  form: Setup,
  volume?: Schemas['VolumeAnswer'],
): Record<string, string> {
  const name = (list: { key: string; name: string }[], key: string) =>
    list.find((one) => one.key === key)?.name ?? ''
  const gear = setup.gear.filter((one) => form.gear[one.key]?.on).map((one) => one.name)
  const methods = setup.methods.flatMap((one) =>
    one.choices.filter((choice) => choice.key === form.methods[one.key]).map((choice) => choice.name),
  )
  const banded = setup.bands.filter((row) => form.bands[row.parameter]?.low.trim()).map((row) => row.name)
  const { numbers } = form
  return {
    what: list([form.name, form.stock, form.stage.replace('_', ' '), form.panel]),
    size: list([
      name(setup.shapes, form.shape),
      volume ? `${volume.volume.text} ${volume.volume.unit} net` : '',
    ]),
    gear: gear.join(', ') || 'none',
    keeping: list([
      name(setup.sand, form.sand),
      name(setup.source_water, form.source_water),
      `${numbers.change_percent} % every ${numbers.change_every_days} days`,
    ]),
    methods: methods.join(' · ') || 'nothing chosen: the app uses its defaults',
    bands: banded.join(', ') || 'none: nothing says what is right for it',
    limits: list([
      `${numbers.limit_salinity} ${setup.units.salinity}`,
      `${numbers.limit_alkalinity} ${setup.units.alkalinity}`,
      `${numbers.limit_temperature} ${setup.units.temperature} in a day`,
    ]),
    rules: 'each can be switched off',
    history: 'earlier set-ups and volumes; archive',
  }
}

function list(parts: string[]): string {
  return parts.filter(Boolean).join(' · ')
}
