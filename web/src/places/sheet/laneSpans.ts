import type { Schemas } from '../../api/client'
import { wall } from '../../parts/wall'
import { LABELS, type TimeWindow } from './timeWindow'

/** The phases of a lane as far as the window shows them. */
export const spansOf = (lane: Schemas['CareLane'], view: TimeWindow, right: number) =>
  (lane.spans ?? []).map((span) => {
    const x = Math.max(LABELS, view.x(wall(span.start)))
    return { ...span, x, width: Math.min(right, view.x(wall(span.end))) - x }
  })
