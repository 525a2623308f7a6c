import { scaleUtc } from 'd3-scale'
import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useKeys } from '../../parts/keys'
import { wall } from '../../parts/wall'

export const DAY = 86_400_000
export const LABELS = 142
const RIGHT = 6
const REACH = [21, 60, 180, 450]

export type TimeWindow = ReturnType<typeof useTimeWindow>

/** One window on time for all strips and lanes: moved by keys, wheel and drag; asks for more past when it runs out. */
export function useTimeWindow(
  sheet: Ref<Schemas['Sheet'] | undefined>,
  box: Ref<HTMLElement | undefined>,
  back: Ref<number>,
) {
  const width = ref(Math.min(700, window.innerWidth - 40))
  const asked = ref<[number, number]>()
  const now = computed(() => (sheet.value ? wall(sheet.value.now) : 0))
  const end = computed(() => (sheet.value ? wall(sheet.value.end) : 1))
  const span = computed<[number, number]>(() => asked.value ?? [now.value - 21 * DAY, end.value])
  const scale = computed(() =>
    scaleUtc()
      .domain(span.value)
      .range([LABELS, width.value - RIGHT]),
  )
  const x = (at: number) => scale.value(at)

  const watcher = new ResizeObserver(
    (entries) => (width.value = Math.max(320, entries[0]!.contentRect.width)),
  )
  watch(box, (element, before) => {
    if (before) watcher.unobserve(before)
    if (element) watcher.observe(element)
  })
  onBeforeUnmount(() => watcher.disconnect())

  function show(start: number, until: number) {
    const length = Math.min(Math.max(until - start, 2 * DAY), 460 * DAY)
    const last = Math.min(start + length, end.value)
    asked.value = [last - length, last]
    const wanted = (now.value - asked.value[0]) / DAY
    back.value = Math.max(back.value, REACH.find((days) => days >= wanted) ?? REACH.at(-1)!)
  }
  function pan(share: number) {
    const [start, until] = span.value
    show(start + share * (until - start), until + share * (until - start))
  }
  function zoom(factor: number, around = now.value) {
    const [start, until] = span.value
    show(around - (around - start) * factor, Math.min(around + (until - around) * factor, end.value))
  }
  function reset() {
    asked.value = undefined
  }

  let dragged: { from: number; span: [number, number] } | undefined
  const handlers = {
    wheel(event: WheelEvent) {
      if (event.ctrlKey) zoom(event.deltaY > 0 ? 1.2 : 1 / 1.2, +scale.value.invert(event.offsetX))
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
  return { width, now, span, scale, x, zoom, reset, handlers }
}
