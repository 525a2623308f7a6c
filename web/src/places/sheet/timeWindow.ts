import { scaleUtc } from 'd3-scale'
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useKeys } from '../../parts/keys'
import { wall } from '../../parts/wall'

export const DAY = 86_400_000
export const LABELS = 142
const RIGHT = 6
const [SHORTEST, LONGEST] = [DAY / 12, 5000 * DAY]
/** How much past and future is asked for, in days: the least that holds what is looked at. */
const PAST = [21, 60, 180, 450, 1500, 5000]
const FUTURE = [14, 60, 366]
/** What can be looked at with one touch: days back, days ahead. */
export const SPANS = {
  '2 h': [1 / 16, 1 / 48],
  day: [0.75, 0.25],
  week: [5, 2],
  month: [21, 14],
  year: [300, 65],
  all: [5000, 366],
} as const

export type TimeWindow = ReturnType<typeof useTimeWindow>
export type SpanName = keyof typeof SPANS

/** One window on time for all strips and lanes: moved by keys, wheel and drag; asks for more when it runs out. */
export function useTimeWindow(
  sheet: Ref<Schemas['Sheet'] | undefined>,
  box: Ref<HTMLElement | undefined>,
  reach: { back: Ref<number>; ahead: Ref<number> },
) {
  const width = ref(Math.min(700, window.innerWidth - 40))
  const asked = ref<[number, number]>()
  /** The span that was chosen by name, as long as it is looked at. */
  const chosen = ref<SpanName | undefined>('month')
  const now = computed(() => (sheet.value ? wall(sheet.value.now) : 0))
  const usual = computed<[number, number]>(() => [now.value - 21 * DAY, now.value + 14 * DAY])
  const span = computed<[number, number]>(() => asked.value ?? usual.value)
  const scale = computed(() =>
    scaleUtc()
      .domain(span.value)
      .range([LABELS, width.value - RIGHT]),
  )
  const x = (at: number) => scale.value(at)
  const at = (place: number) => +scale.value.invert(place)

  const watcher = new ResizeObserver(
    (entries) => (width.value = Math.max(320, entries[0]!.contentRect.width)),
  )
  watch(box, (element, before) => {
    if (before) watcher.unobserve(before)
    if (element) watcher.observe(element)
  })
  onBeforeUnmount(() => watcher.disconnect())

  function show(start: number, until: number) {
    chosen.value = undefined
    const length = Math.min(Math.max(until - start, SHORTEST), LONGEST + FUTURE.at(-1)! * DAY)
    const last = Math.min(start + length, now.value + FUTURE.at(-1)! * DAY)
    const first = Math.max(last - length, now.value - LONGEST)
    asked.value = [first, Math.max(last, first + SHORTEST)]
    const least = (steps: number[], days: number) => steps.find((each) => each >= days) ?? steps.at(-1)!
    reach.back.value = Math.max(reach.back.value, least(PAST, (now.value - first) / DAY))
    reach.ahead.value = Math.max(reach.ahead.value, least(FUTURE, (last - now.value) / DAY))
  }
  function pan(share: number) {
    const [start, until] = span.value
    show(start + share * (until - start), until + share * (until - start))
  }
  function zoom(factor: number, around?: number) {
    const [start, until] = span.value
    const held = around ?? Math.min(Math.max(now.value, start), until)
    show(held - (held - start) * factor, held + (until - held) * factor)
  }
  function choose(name: SpanName) {
    const [back, ahead] = SPANS[name]
    const first = sheet.value ? wall(sheet.value.first) : now.value
    const start = name === 'all' ? Math.min(first, now.value - 30 * DAY) : now.value - back * DAY
    show(start, now.value + ahead * DAY)
    chosen.value = name
  }
  function reset() {
    asked.value = undefined
    chosen.value = 'month'
  }

  let dragged: { from: number; span: [number, number] } | undefined
  const handlers = {
    wheel(event: WheelEvent) {
      if (event.ctrlKey) zoom(event.deltaY > 0 ? 1.2 : 1 / 1.2, at(event.offsetX))
      else if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) pan(event.deltaX / width.value)
      else return
      event.preventDefault()
    },
    pointerdown(event: PointerEvent) {
      if (event.button === 0) dragged = { from: event.clientX, span: span.value }
    },
    pointermove(event: PointerEvent) {
      if (!dragged || !event.buttons) return
      const moved =
        ((dragged.from - event.clientX) / (width.value - LABELS)) * (dragged.span[1] - dragged.span[0])
      if (Math.abs(event.clientX - dragged.from) > 4) show(dragged.span[0] + moved, dragged.span[1] + moved)
    },
    pointerup: () => (dragged = undefined),
    pointerleave: () => (dragged = undefined),
  }
  useKeys({
    ArrowLeft: () => pan(-0.2),
    ArrowRight: () => pan(0.2),
    '+': () => zoom(1 / 1.5),
    '-': () => zoom(1.5),
    '0': reset,
  })
  return { width, now, span, scale, chosen, x, at, zoom, choose, reset, handlers }
}
