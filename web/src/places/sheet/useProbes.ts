import { useQuery } from '@pinia/colada'
import { onScopeDispose, ref, watch } from 'vue'
import { probesQuery } from '../../api/queries'
import type { TimeWindow } from './timeWindow'

/** What probes wrote in the part of time that is looked at, with some on either side; at the resolution that is seen. */
export function useProbes(system: number, view: TimeWindow) {
  const asked = ref<{ start: number; end: number; points: number }>()
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    [view.span, view.width],
    ([[start, end], width]) => {
      const inside = asked.value && asked.value.start <= start && asked.value.end >= end
      const length = end - start
      if (inside && asked.value!.end - asked.value!.start < 4 * length) return
      clearTimeout(timer)
      timer = setTimeout(
        () =>
          (asked.value = {
            start: start - length / 2,
            end: end + length / 2,
            points: Math.round(width / 2) * 2,
          }),
        asked.value ? 120 : 0,
      )
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(timer))
  const { data } = useQuery(() => ({
    ...probesQuery({ id: system, ...(asked.value ?? { start: 0, end: 1, points: 10 }) }),
    enabled: asked.value !== undefined && view.now.value > 0,
    placeholderData: (before) => before,
  }))
  return data
}
