import { watch, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { today } from './days'
import { readIn } from './measures'
import { writing } from './numbers'

/** Takes over how this keeper writes numbers, days and measures, as soon as it is known. */
export function useWriting(harbour: Ref<Schemas['Harbour'] | undefined>) {
  watch(harbour, (now) => {
    if (!now) return
    Object.assign(writing, { decimal: now.decimal_sign, days: now.days, clock: now.clock, week: now.week })
    readIn(now.measures)
    today.value = now.today
  })
}
