import type { RouteLocationRaw } from 'vue-router'
import type { Schemas } from '../api/client'

/** Where a plan that is followed is seen: a programme has a page of its own. */
export const caseRoute = (system: number, one: Schemas['CaseShown']): RouteLocationRaw =>
  one.programme
    ? { name: 'programme', params: { system, key: one.programme } }
    : { name: 'remedy', params: { system, cause: one.cause } }
