import type { Schemas } from '../../api/client'
import { typed, written as text } from '../../parts/numbers'

type Text = Record<string, string>
/** A band with its aim, as typed; an empty aim is the usual one. */
export interface BandTyped {
  low: string
  high: string
  aim: string
  reason: string
}
export interface GearRow {
  on: boolean
  place: Schemas['GearPlace']
  cover: string
}
/** A set-up as it is typed. */
export interface Setup {
  name: string
  stock: string
  stage: Schemas['Stage']
  panel: Schemas['PanelMaterial']
  started_on: string
  clean_panels: Schemas['Panel'][]
  sand: Schemas['SandMethod']
  source_water: Schemas['SourceWater']
  method_note: string
  shape: Schemas['Shape']
  size: Text
  reckon: boolean
  sumpBox: boolean
  sump: Text
  bySalt: boolean
  salt: Text
  always: boolean
  numbers: Text
  gear: Record<string, GearRow>
  methods: Record<string, string>
  bands: Record<string, BandTyped>
}

const LIMITED = ['salinity', 'alkalinity', 'temperature'] as const
const USUAL_GEAR = ['heater', 'powerhead']

/** The form of a stored system, or of a new one. */
export function blank(setup: Schemas['SetupAnswer'], system?: Schemas['SystemAnswer']): Setup {
  const geometry = system?.geometry
  const test = geometry?.salt_test
  return {
    name: system?.name ?? '',
    stock: system?.stock ?? '',
    stage: system?.stage ?? 'running',
    panel: system?.panel ?? 'glass',
    started_on: system?.started_on ?? '',
    clean_panels: [...(system?.clean_panels ?? ['front' as const])],
    sand: system?.sand ?? 'siphoned',
    source_water: system?.source_water ?? 'purified',
    method_note: system?.method_note ?? '',
    shape: geometry?.shape ?? 'box',
    size: {
      length_cm: text(geometry?.length_cm ?? ''),
      width_cm: text(geometry?.width_cm ?? ''),
      bow_cm: geometry?.bow_cm ? text(geometry.bow_cm) : '',
      depth_cm: text(geometry?.depth_cm ?? ''),
      stated_l: text(geometry?.stated_l ?? ''),
      displaced_l: text(geometry?.displaced_l ?? 0),
      sand_bed_cm: text(geometry?.sand_bed_cm ?? 0),
      rock_kg: text(geometry?.rock_kg ?? 0),
      sump_l: text(geometry?.sump_l ?? 0),
    },
    reckon: !!geometry && geometry.displaced_l === null,
    sumpBox: !!geometry?.sump,
    sump: {
      length_cm: text(geometry?.sump?.length_cm ?? ''),
      width_cm: text(geometry?.sump?.width_cm ?? ''),
      depth_cm: text(geometry?.sump?.depth_cm ?? ''),
    },
    bySalt: !!test,
    salt: {
      mass_g: text(test?.mass_g ?? ''),
      salinity_before: text(test?.salinity_before ?? ''),
      salinity_after: text(test?.salinity_after ?? ''),
      sea_salt_share: (test?.sea_salt_share ?? setup.salts[0]?.share ?? 1).toFixed(3),
    },
    always: false,
    numbers: {
      change_percent: text(system?.change_percent ?? 10),
      change_every_days: text(system?.change_every_days ?? 7),
      largest_percent: text(system?.largest_percent ?? 25),
      ...Object.fromEntries(
        LIMITED.map((name) => [
          `limit_${name}`,
          text(system?.[`limit_${name}`] ?? Number(setup.limits[name]!.toPrecision(4))),
        ]),
      ),
      bucket_l: text(system?.bucket_l ?? 15),
    },
    gear: Object.fromEntries(setup.gear.map((one) => [one.key, gearRow(one.key, system)])),
    methods: { ...system?.methods },
    bands: Object.fromEntries(
      setup.bands.map((row) => {
        const band = system?.bands?.[row.parameter as keyof typeof system.bands]
        return [
          row.parameter,
          {
            low: text(band?.low ?? ''),
            high: text(band?.high ?? ''),
            aim: text(band?.aim ?? ''),
            reason: band?.aim_reason ?? '',
          },
        ]
      }),
    ),
  }
}

function gearRow(key: string, system?: Schemas['SystemAnswer']): GearRow {
  const stored = system?.gear?.find((one) => one.kind === key)
  const on = system ? !!stored : USUAL_GEAR.includes(key)
  return { on, place: stored?.place ?? 'display', cover: text(stored?.cover_cm ?? '') }
}

/** The fields of the size that have to be filled before a volume can be asked for. */
export function sizesTyped(setup: Schemas['SetupAnswer'], form: Setup): boolean {
  const shape = setup.shapes.find((one) => one.key === form.shape)
  const measures = (shape?.measures ?? []).map((one) => form.size[one.field])
  const display = shape?.deep ? [...measures, form.size.depth_cm] : measures
  const salt = form.bySalt ? ['mass_g', 'salinity_before', 'salinity_after'].map((key) => form.salt[key]) : []
  const sump = form.sumpBox ? Object.values(form.sump) : []
  return [...display, ...salt, ...sump].every((value) => value?.trim())
}

const MEASURED = ['length_cm', 'width_cm', 'depth_cm', 'stated_l']

/** The geometry as the API wants it. */
export function sizes(form: Setup): Schemas['GeometryBody'] {
  const size = Object.fromEntries(
    Object.entries(form.size).map(([key, value]) => [key, value.trim() ? typed(value) : 0]),
  )
  const numbers = (part: Text) =>
    Object.fromEntries(Object.entries(part).map(([key, value]) => [key, typed(value)]))
  return {
    ...size,
    ...Object.fromEntries(
      MEASURED.map((key) => [key, form.size[key]!.trim() ? typed(form.size[key]!) : null]),
    ),
    shape: form.shape,
    displaced_l: form.reckon ? null : size.displaced_l,
    sump: form.sumpBox ? numbers(form.sump) : null,
    salt_test: form.bySalt ? numbers(form.salt) : null,
  } as Schemas['GeometryBody']
}

/** The whole of it as the API wants it. */
export function setupBody(form: Setup, startedOn?: string) {
  const bands = Object.entries(form.bands).filter(([, band]) => band.low.trim() || band.high.trim())
  const { name, stock, stage, panel, clean_panels, sand, source_water, method_note } = form
  return {
    name,
    stock,
    stage,
    panel,
    clean_panels,
    sand,
    source_water,
    method_note,
    methods: Object.fromEntries(Object.entries(form.methods).filter(([, choice]) => choice)),
    started_on: form.started_on || startedOn || '',
    geometry: sizes(form),
    ...Object.fromEntries(Object.entries(form.numbers).map(([key, value]) => [key, typed(value)])),
    gear: Object.entries(form.gear)
      .filter(([, row]) => row.on)
      .map(([kind, row]) => ({
        kind,
        place: row.place,
        cover_cm: row.place === 'display' && row.cover.trim() ? typed(row.cover) : null,
      })),
    bands: Object.fromEntries(
      bands.map(([key, band]) => [
        key,
        {
          low: typed(band.low),
          high: typed(band.high),
          aim: band.aim.trim() ? typed(band.aim) : null,
          aim_reason: band.reason.trim(),
        },
      ]),
    ),
  }
}
