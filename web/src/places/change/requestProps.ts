import type { Schemas } from '../../api/client'
import type { ChangeRequest } from './useChange'

/** What every part of the sentence of a change gets: what can be chosen, the request itself, and what is wrong where. */
export interface RequestProps {
  offer: Schemas['Offer']
  request: ChangeRequest
  wrong: (field: string) => string | undefined
}
