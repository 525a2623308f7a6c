import { reactive } from 'vue'

/** How this keeper writes numbers; set when the settings are known. */
export const writing = reactive({ decimal: '.' })

/** What was typed as a number for the API; text that is none is sent as it is, so that the API names the field. */
export function typed(text: string | number): number {
  const raw = String(text).trim()
  const plain = writing.decimal === ',' && /^[+-]?\d*,\d+$/.test(raw) ? raw.replace(',', '.') : raw
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : (plain as unknown as number)
}
