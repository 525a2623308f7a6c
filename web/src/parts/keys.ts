import { onBeforeUnmount, onMounted, ref, watch } from 'vue'

/** Where letters are typed or chosen by: a field, an open list, a menu, a dialog. */
const TAKEN =
  'input, textarea, select, [contenteditable], [role="combobox"], [role="listbox"], [role="menu"], [role="dialog"]'
const OPEN = '.v-overlay--active [role="listbox"], .v-overlay--active[role="dialog"], dialog[open]'

const SWITCH = 'salttide.keys'
/** Whether single keys do anything on this device. */
export const keysOn = ref(localStorage.getItem(SWITCH) !== '0')
watch(keysOn, (on) => localStorage.setItem(SWITCH, on ? '1' : '0'))

/** Single keys, anywhere but where letters are typed. Keys pressed with Ctrl, Alt or Meta are the browser's. */
export function useKeys(keys: Record<string, () => void>) {
  function pressed(event: KeyboardEvent) {
    if (!keysOn.value) return
    if (event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented) return
    const target = event.target as HTMLElement
    if (target.closest(TAKEN) || document.querySelector(OPEN)) return
    const act = keys[event.key]
    if (!act) return
    event.preventDefault()
    act()
  }
  onMounted(() => window.addEventListener('keydown', pressed))
  onBeforeUnmount(() => window.removeEventListener('keydown', pressed))
}
