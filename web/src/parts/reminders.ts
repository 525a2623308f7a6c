import { onScopeDispose, ref, watch } from 'vue'
import { answer, api, type Schemas } from '../api/client'

const WANTED = 'rings'
const RUNG = 'rings-rung'
const EVERY = 60_000

const wanted = ref(localStorage.getItem(WANTED) === 'on')
const allowed = ref('Notification' in window ? Notification.permission : 'denied')

/** Whether this browser tells about the day's work, as the keeper of this browser wants it. */
export function useReminderSetting() {
  const able = 'Notification' in window
  async function want(on: boolean) {
    if (on && able) allowed.value = await Notification.requestPermission()
    wanted.value = on && allowed.value === 'granted'
    localStorage.setItem(WANTED, wanted.value ? 'on' : 'off')
  }
  return { wanted, allowed, able, want }
}

/** Shows something outside the page, once for each key. */
export async function notify(ring: Pick<Schemas['Reminder'], 'key' | 'title' | 'words'>) {
  const told = { body: ring.words, tag: ring.key, icon: '/mark.svg' }
  const worker =
    'serviceWorker' in navigator ? await navigator.serviceWorker.register('/rings.js') : undefined
  // On phones only a service worker may show something.
  if (worker?.active) return worker.showNotification(ring.title, told)
  const note = new Notification(ring.title, told)
  note.onclick = () => window.focus()
}

async function look() {
  const { now, reminders } = await answer(api.GET('/api/rota/reminders'))
  const rung = JSON.parse(localStorage.getItem(RUNG) ?? '[]') as string[]
  const due = reminders.filter((ring) => Date.parse(ring.at) <= Date.parse(now) && !rung.includes(ring.key))
  localStorage.setItem(RUNG, JSON.stringify([...rung, ...due.map((ring) => ring.key)].slice(-20)))
  for (const ring of due) await notify(ring)
}

/** Tells about the day's work once, as long as the app is open in some tab. */
export function useReminders() {
  let timer: ReturnType<typeof setInterval> | undefined
  const stop = () => clearInterval(timer)
  // Without the server there is nothing to tell; the next look asks again.
  const tryLook = () => void look().catch(() => undefined)
  watch(
    wanted,
    (on) => {
      stop()
      if (!on || allowed.value !== 'granted') return
      tryLook()
      timer = setInterval(tryLook, EVERY)
    },
    { immediate: true },
  )
  onScopeDispose(stop)
}
