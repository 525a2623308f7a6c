import type { Schemas } from '../../api/client'

/** Levels in cm, null where not known. */
export type Levels = Record<string, number | null>
export type LevelKey = 'freeboard_cm' | 'fall_cm' | 'outlet_cm' | 'break_cm' | 'rim_cm' | 'pump_cm'

/** A level on the drawing: where it stands in the picture, and its name. */
export interface LevelLine {
  key: LevelKey
  name: string
  y: number
  x: number
  width: number
}

/** Where something stands in the picture. */
export interface Box {
  x: number
  y: number
  width: number
  height: number
}

/** The picture in its own units: what a centimetre is, where the water of each vessel stands. */
export interface Picture {
  cm: number
  display: { x: number; y: number; width: number; height: number; rim: number }
  sump?: { x: number; y: number; width: number; height: number; rim: number }
}

/** The width of the picture, in its own units. */
export const WIDE = 620
const DISPLAY_HIGH = 190

/** Lays out display and sump to one scale, each as wide as it is long. */
export function pictureOf(drawing: Schemas['DrawingShown'], levels: Levels): Picture {
  const free = levels.freeboard_cm ?? 4
  const cm = Math.min(DISPLAY_HIGH / (drawing.depth_cm + free), (WIDE - 60) / drawing.width_cm)
  const display = {
    x: 30,
    y: 24 + free * cm,
    width: drawing.width_cm * cm,
    height: drawing.depth_cm * cm,
    rim: 24,
  }
  if (!drawing.return_pump || !drawing.sump_length_cm || !drawing.sump_depth_cm) return { cm, display }
  const rim = levels.rim_cm ?? drawing.sump_depth_cm * 1.6
  const top = display.y + display.height + 34
  const y = top + (rim - drawing.sump_depth_cm) * cm
  const sump = {
    x: 30 + Math.max(0, (drawing.width_cm - drawing.sump_length_cm) / 2) * cm,
    y,
    width: drawing.sump_length_cm * cm,
    height: drawing.sump_depth_cm * cm,
    rim: top,
  }
  return { cm, display, sump }
}

const RESERVOIR = { width: 96, height: 64 }

/** Where the reservoir stands: beside the sump where there is room, else under it; not to scale. */
export function reservoirOf({ display, sump }: Picture): Box {
  const low = sump ? sump.y + sump.height : display.y + display.height
  const x = WIDE - RESERVOIR.width - 24
  const beside = sump !== undefined && sump.x + sump.width + 24 < x
  return { x, y: beside ? low - RESERVOIR.height : low + 40, ...RESERVOIR }
}

/** The levels that can be dragged, with where they stand now. */
export function linesOf(levels: Levels, at: Picture): LevelLine[] {
  const { display, sump, cm } = at
  const inside = { x: display.x, width: display.width }
  const found: LevelLine[] = [{ key: 'freeboard_cm', name: 'rim', y: display.rim, ...inside }]
  if (!sump) return found
  const below = (value: number | null | undefined) => display.y + (value ?? 0) * cm
  if (levels.fall_cm != null)
    found.push({ key: 'fall_cm', name: 'falls to', y: below(levels.fall_cm), ...inside })
  if (levels.break_cm != null)
    found.push({ key: 'break_cm', name: 'siphon break', y: below(levels.break_cm), ...inside })
  if (levels.outlet_cm != null)
    found.push({ key: 'outlet_cm', name: 'outlet', y: below(levels.outlet_cm), ...inside })
  const sumpInside = { x: sump.x, width: sump.width }
  found.push({ key: 'rim_cm', name: 'rim', y: sump.rim, ...sumpInside })
  if (levels.pump_cm != null)
    found.push({
      key: 'pump_cm',
      name: 'pump draws air',
      y: sump.y + sump.height - (levels.pump_cm ?? 0) * cm,
      x: sump.x + sump.width - (levels.chamber_cm ?? 20) * cm,
      width: (levels.chamber_cm ?? 20) * cm,
    })
  return found
}

/** The levels as they are typed; what was typed with a unit is taken as the server read it. */
export function levelsOf(typed: Schemas['LevelsBody'], read: Levels): Levels {
  return Object.fromEntries(
    Object.entries(read).map(([key, value]) => {
      const now = typed[key as keyof Schemas['LevelsBody']]
      return [key, typeof now === 'number' ? now : now === null ? null : value]
    }),
  )
}

/** What a level becomes when its line is dragged down by so many centimetres, to half a centimetre. */
export function dragged(key: LevelKey, before: number, down_cm: number): number {
  const up = key === 'freeboard_cm' || key === 'rim_cm' || key === 'pump_cm'
  const value = before + (up ? -down_cm : down_cm)
  return Math.max(0, Math.round(value * 2) / 2)
}
