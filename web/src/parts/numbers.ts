/** What was typed as a number for the API; text that is none is sent as it is, so that the API names the field. */
export function typed(text: string | number): number {
  const plain = String(text).trim()
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : (plain as unknown as number)
}
