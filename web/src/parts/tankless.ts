import { computed, type Ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import type { Place } from './places'

/** Whether the page is about a tank where there is none yet, and which place it would be. */
export function useTankless(harbour: Ref<Schemas['Harbour'] | undefined>, places: Ref<Place[]>) {
  const route = useRoute()
  const withoutTank = computed(() => {
    const known = harbour.value
    return !!route.params.system && !!known && !known.systems.length && !known.broken.length
  })
  const placeHere = computed(() =>
    places.value.find((place) => (place.to as { name?: string }).name === route.name),
  )
  return { withoutTank, placeHere }
}
