import { computed, ref, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import { fixed } from '../../parts/numbers'
import { dayWords, wall } from '../../parts/wall'
import { LABELS, type TimeWindow } from './timeWindow'

/** A value of a strip that is looked at: where it stands, and what it says. */
export interface Looked {
  at: number
  value: number
  words: string
  mark?: Schemas['Mark']
}
const NEAR = 18

/** The value under the pointer, or the reading that the arrow keys have reached; a press opens its entry in the log. */
export function useValueAt(
  strip: Ref<Schemas['Strip']>,
  ahead: Ref<Schemas['ExpectedPoint'][]>,
  view: TimeWindow,
  system: () => number,
) {
  const router = useRouter()
  const looked = ref<Looked>()
  const decimals = computed(() => strip.value.decimals)
  const inside = computed(() => {
    const [start, end] = view.span.value
    return strip.value.marks.filter((mark) => wall(mark.at) >= start && wall(mark.at) <= end)
  })
  const ofMark = (mark: Schemas['Mark']): Looked => ({
    at: wall(mark.at),
    value: mark.value,
    words: `${mark.text}, ${mark.when}, ${mark.instrument}`,
    mark,
  })
  const text = (value: number) => fixed(value, decimals.value)
  const ofExpected = (point: Schemas['ExpectedPoint']): Looked => ({
    at: wall(point.at),
    value: point.value,
    words: `about ${text(point.value)} ${strip.value.unit} (${text(point.low)} to ${text(point.high)}), ${dayWords(wall(point.at))}`,
  })
  const nearest = <One extends { at: string }>(all: One[], at: number) =>
    all.reduce<One | undefined>(
      (best, one) => (best && Math.abs(wall(best.at) - at) <= Math.abs(wall(one.at) - at) ? best : one),
      undefined,
    )

  function point(place: number) {
    const at = view.at(place)
    const mark = nearest(inside.value, at)
    if (mark && Math.abs(view.x(wall(mark.at)) - place) <= NEAR) looked.value = ofMark(mark)
    else if (at > view.now.value && ahead.value.length) looked.value = ofExpected(nearest(ahead.value, at)!)
    else looked.value = undefined
  }
  function step(by: 1 | -1) {
    const all = inside.value
    if (!all.length) return
    const here = all.findIndex((mark) => mark.at === looked.value?.mark?.at)
    const next = here < 0 ? (by > 0 ? 0 : all.length - 1) : Math.min(all.length - 1, Math.max(0, here + by))
    looked.value = ofMark(all[next]!)
  }
  function open() {
    const day = looked.value?.mark?.day
    if (day) void router.push({ name: 'log', query: { system: system(), first: day, last: day } })
  }
  function pressed(event: KeyboardEvent) {
    const act = { ArrowLeft: () => step(-1), ArrowRight: () => step(1), Enter: open, Escape: clear }[
      event.key
    ]
    if (!act) return
    act()
    event.preventDefault()
    event.stopPropagation()
  }
  const clear = () => (looked.value = undefined)
  /** Where what is looked at stands; it is said on the side where there is room. */
  function spot(y: (value: number) => number, right: number) {
    if (!looked.value) return undefined
    const at = view.x(looked.value.at)
    return { at, y: y(looked.value.value), left: at > (LABELS + right) / 2, words: looked.value.words }
  }
  return { spot, point, pressed, open, clear }
}
