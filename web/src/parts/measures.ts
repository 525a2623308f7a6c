import { reactive, ref } from 'vue'
import type { Schemas } from '../api/client'
import { typed, writing, written } from './numbers'

/** What fields are kept in, and what this keeper reads and types instead; set when the settings are known. */
const READ = reactive<Record<string, { unit: string; per: number }>>({})
const DIGITS = 4
/** Whether the keeper's measures are known: until then a number typed beside a unit could be taken for another one. */
export const measuresKnown = ref(false)

/** Takes the keeper's measures. */
export function readIn(measures: Schemas['MeasureShown'][]): void {
  for (const { kept, unit, per } of measures) READ[kept] = { unit, per }
  measuresKnown.value = true
}

/** The unit this keeper reads what is kept in `kept` in; any other unit is its own. */
export function unitRead(kept?: string): string | undefined {
  return kept && (READ[kept]?.unit ?? kept)
}

const isRead = (kept?: string) => !!kept && !!READ[kept] && READ[kept].unit !== kept

/** What stands in a field: a kept number in the keeper's unit, or what was typed there. */
export function fieldText(value: string | number | null | undefined, kept?: string): string {
  if (value === null || value === undefined) return ''
  if (!isRead(kept)) return String(written(value))
  const { unit, per } = READ[kept!]!
  const text = String(value)
  if (text.endsWith(` ${unit}`)) return text.slice(0, -unit.length - 1)
  const number = typeof value === 'number' ? value : typed(text)
  return typeof number === 'number'
    ? String(Number((number / per).toPrecision(DIGITS))).replace('.', writing.decimal)
    : text
}

/** What was typed, for the API: a plain number gets the unit that stands beside the field. */
export function fieldValue(text: string, kept?: string): string {
  const plain = /^[+-]?[\d.,\s/]+$/.test(text.trim())
  return isRead(kept) && text.trim() && plain ? `${text} ${READ[kept!]!.unit}` : text
}
