import { reactive } from 'vue'

/** How this keeper writes; set when the settings are known. */
export const writing = reactive({ decimal: '.', days: 'day_first', clock: '24', week: 'monday' })

const STARTS: Record<string, number> = { monday: 0, sunday: 6, saturday: 5 }
/** The days of the week in this keeper's order, Monday being 0. */
export function weekOrder(): number[] {
  const first = STARTS[writing.week] ?? 0
  return Array.from({ length: 7 }, (_, place) => (first + place) % 7)
}

/** What was typed as a number for the API; text that is none is sent as it is, so that the API names the field. */
export function typed(text: string | number): number {
  const raw = String(text).trim().replace(/\s*%$/, '')
  const plain = writing.decimal === ',' && /^[+-]?\d*,\d+$/.test(raw) ? raw.replace(',', '.') : raw
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : (plain as unknown as number)
}

/** A number of the API for a field, with this keeper's decimal sign. */
export function written(value: string | number): string {
  return typeof value === 'number' ? String(value).replace('.', writing.decimal) : value
}

/** A number with fixed digits, as this keeper reads it. */
export function fixed(value: number, decimals: number): string {
  return value.toFixed(decimals).replace('.', writing.decimal)
}

/** So many decimals that a span shows two digits of itself. */
export function decimalsOf(span: number): number {
  return Math.max(0, Math.min(5, 1 - Math.floor(Math.log10(Math.abs(span) || 1))))
}
