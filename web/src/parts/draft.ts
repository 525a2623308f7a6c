import { computed, ref, watch } from 'vue'
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router'

const store = (name: string) => `salttide.draft.${name}`

/** What was typed under a name on this device and not kept since. */
export function readDraft<T>(name: string): T | undefined {
  try {
    return JSON.parse(localStorage.getItem(store(name)) ?? 'null') ?? undefined
  } catch {
    return undefined
  }
}
/** Keep what is typed, or forget it. */
export function writeDraft(name: string, typed: unknown) {
  if (typed === undefined) localStorage.removeItem(store(name))
  else localStorage.setItem(store(name), JSON.stringify(typed))
}

export type Leaving = 'stay' | 'keep' | 'drop'
export type FormDraft = ReturnType<typeof useDraft>

/**
 * A form whose typed values outlive a reload on this device, until they are kept or it starts from something else.
 * With `asks`, leaving it asks what becomes of them.
 */
export function useDraft(name: string, form: object, asks = false) {
  const first = JSON.stringify(form)
  const kept = readDraft<{ first: string; form: object }>(name)
  const restored = ref(kept?.first === first)
  if (restored.value) Object.assign(form, kept!.form)
  const dirty = computed(() => JSON.stringify(form) !== first)
  let done = false
  watch(
    () => JSON.stringify(form),
    () => {
      if (!done) writeDraft(name, dirty.value ? { first, form } : undefined)
    },
  )

  /** It is kept elsewhere now, or not wanted. */
  function forget() {
    done = true
    writeDraft(name, undefined)
  }
  function restart() {
    Object.assign(form, JSON.parse(first))
    restored.value = false
    writeDraft(name, undefined)
  }

  const asking = ref<(what: Leaving) => void>()
  async function leave(): Promise<boolean> {
    if (done || !dirty.value) return true
    const what = await new Promise<Leaving>((tell) => (asking.value = tell))
    asking.value = undefined
    if (what === 'drop') forget()
    return what !== 'stay'
  }
  if (asks) {
    onBeforeRouteLeave(leave)
    onBeforeRouteUpdate(leave)
  }
  return { restored, dirty, asking, forget, restart }
}
