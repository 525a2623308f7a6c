import { onBeforeUnmount, onMounted } from 'vue'

/** Single keys, anywhere but in a field. Keys pressed with Ctrl, Alt or Meta are the browser's. */
export function useKeys(keys: Record<string, () => void>) {
  function pressed(event: KeyboardEvent) {
    if (event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented) return
    const target = event.target as HTMLElement
    if (target.closest('input, textarea, select, [contenteditable]')) return
    const act = keys[event.key]
    if (!act) return
    event.preventDefault()
    act()
  }
  onMounted(() => window.addEventListener('keydown', pressed))
  onBeforeUnmount(() => window.removeEventListener('keydown', pressed))
}
