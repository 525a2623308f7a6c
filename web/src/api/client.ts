import createClient from 'openapi-fetch'
import { BASE } from '../parts/example'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export const api = createClient<paths>({ baseUrl: BASE })

export type FieldProblem = Schemas['FieldProblem']
export type Problem = Schemas['Problem']

/** A problem answer of the API, or a server that does not answer (status 0). */
export class ProblemError extends Error {
  constructor(public readonly problem: Problem) {
    super(problem.detail)
  }
  /** What is said at one field, with what would be accepted. */
  at(field: string): string | undefined {
    const found = this.problem.fields.find((item) => item.field === field)
    const more = found?.accepted && !found.message.includes(found.accepted) ? `: ${found.accepted}` : ''
    return found && `${found.message}${more}`
  }
}

/** What the server refused, out of whatever was thrown; anything else is thrown on. */
export function refusal(fault: unknown): ProblemError {
  if (fault instanceof ProblemError) return fault
  throw fault
}

export const SILENT: Problem = {
  type: '/problems/http',
  status: 0,
  title: 'No answer',
  detail: 'Salt Tide does not answer. What you typed is still here; try again when it is running.',
  fields: [],
  missing: [],
  reference: '',
}

/** The data of a call, or its problem as an error. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let result: { data?: T; error?: unknown }
  try {
    result = await call
  } catch (fault) {
    if (fault instanceof DOMException && fault.name === 'AbortError') throw fault
    throw new ProblemError(SILENT)
  }
  if (result.data === undefined) throw new ProblemError({ ...SILENT, ...(result.error as Partial<Problem>) })
  return result.data
}

/** Run a command under one key; a call that got no answer is repeated with the same key, so it records once. */
export async function command<T>(
  act: (header: { 'Idempotency-Key': string }) => Promise<{ data?: T; error?: unknown }>,
): Promise<T> {
  const header = { 'Idempotency-Key': newKey() }
  for (let attempt = 1; ; attempt++) {
    try {
      return await answer(act(header))
    } catch (fault) {
      if (!(fault instanceof ProblemError) || fault.problem.status !== 0 || attempt === 3) throw fault
      await new Promise((resume) => setTimeout(resume, 400 * attempt))
    }
  }
}

/** crypto.randomUUID needs a secure page; a phone on the home network may not have one. */
function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
}
