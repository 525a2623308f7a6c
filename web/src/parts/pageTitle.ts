import { onBeforeUnmount, onMounted, type Ref } from 'vue'
import { useRouter } from 'vue-router'

const RINGING = 'Ring! '

/** The title without the mark of a timer that rings. */
export const bareTitle = () => document.title.replace(RINGING, '')

/** Mark the title while a timer rings. */
export function ringTitle(rings: boolean) {
  document.title = `${rings ? RINGING : ''}${bareTitle()}`
}

/**
 * The tab says which page it is, and after a move to another page the focus is at its heading, unless the page has put
 * it into a field.
 */
export function usePageTitle(main: Ref<HTMLElement | undefined>) {
  const router = useRouter()
  let moved = false
  const stop = router.afterEach((to, from) => (moved ||= !!from.name && to.path !== from.path))
  function look() {
    const heading = main.value?.querySelector<HTMLElement>('h1')
    const words = heading?.textContent?.trim().replace(/\s+/g, ' ')
    if (!heading || !words) return
    const ringing = document.title.startsWith(RINGING)
    document.title = `${ringing ? RINGING : ''}${words} · Salt Tide`
    if (!moved) return
    moved = false
    const at = document.activeElement
    if (at && at !== document.body && main.value?.contains(at) && at !== main.value) return
    if (document.querySelector('.v-overlay--active [role="dialog"], .v-overlay--active[role="dialog"]'))
      return
    heading.tabIndex = -1
    heading.focus({ preventScroll: true })
  }
  const observer = new MutationObserver(look)
  onMounted(() => {
    observer.observe(main.value!, { childList: true, subtree: true, characterData: true })
    look()
  })
  onBeforeUnmount(() => (observer.disconnect(), stop()))
}
