import type { Schemas } from '../api/client'

export type Row = Schemas['RecordRow'] & { system?: string }
/** Rows that were entered together, or one alone. */
export interface Session {
  key: number
  rows: Row[]
}

const together = (one: Row, other: Row) =>
  [one, other].every((row) => row.kind === 'reading' && !row.gone && !row.command.startsWith('import-')) &&
  one.command === other.command &&
  one.day === other.day &&
  one.time === other.time &&
  one.system === other.system

/** Results of one test session become one line; everything else stays by itself. */
export function inSessions(rows: Row[]): Session[] {
  const found: Session[] = []
  for (const row of rows) {
    const last = found.at(-1)
    if (last && together(last.rows[0]!, row)) last.rows.push(row)
    else found.push({ key: row.id, rows: [row] })
  }
  return found
}
