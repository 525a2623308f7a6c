import { computed, onScopeDispose, ref, watch, type Ref } from 'vue'
import { ringTitle } from '../../parts/pageTitle'
import type { Run } from './useRun'

/** Seconds as a clock shows them: "12:05", and past the end "+0:40". */
export function clockOf(seconds: number): string {
  const past = seconds < 0
  const whole = past ? Math.floor(-seconds) : Math.ceil(seconds)
  const minutes = Math.floor((whole % 3600) / 60)
  const words = `${String(minutes).padStart(whole >= 3600 ? 2 : 1, '0')}:${String(whole % 60).padStart(2, '0')}`
  return `${past ? '+' : ''}${whole >= 3600 ? `${Math.floor(whole / 3600)}:` : ''}${words}`
}

/** Three short tones. Without a sound card, or before anything was touched, it stays silent. */
function ring() {
  try {
    const sound = new AudioContext()
    for (const [start, pitch] of [
      [0, 660],
      [0.25, 880],
      [0.5, 660],
    ] as const) {
      const tone = sound.createOscillator()
      const loud = sound.createGain()
      tone.frequency.value = pitch
      loud.gain.setValueAtTime(0.25, sound.currentTime + start)
      loud.gain.exponentialRampToValueAtTime(0.001, sound.currentTime + start + 0.22)
      tone.connect(loud).connect(sound.destination)
      tone.start(sound.currentTime + start)
      tone.stop(sound.currentTime + start + 0.24)
    }
    setTimeout(() => void sound.close(), 1500)
  } catch {
    /* The words on the screen ring all the same. */
  }
  navigator.vibrate?.([300, 120, 300])
}

/** The timers and clocks of a run by the server's clock, so that a reload or another device shows the same. */
export function useTimers(run: Ref<Run | undefined>) {
  const tick = ref(Date.now())
  const ahead = ref(0)
  const heard = ref(new Set<string>())
  watch(
    () => run.value?.now,
    (now) => {
      /* The server's clock shows whole seconds: less than two are no difference. */
      const found = now ? new Date(now).getTime() - Date.now() : ahead.value
      if (Math.abs(found - ahead.value) > 2000) ahead.value = found
    },
    { immediate: true },
  )
  const now = computed(() => tick.value + ahead.value)
  const timers = computed(() =>
    (run.value?.timers ?? []).map((timer) => {
      const left = (new Date(timer.ends_at!).getTime() - now.value) / 1000
      return { ...timer, left, over: left <= 0, mark: `${timer.step} ${timer.ends_at}` }
    }),
  )
  const clocks = computed(() =>
    (run.value?.clocks ?? []).map((clock) => {
      const stretch = clock.since ? (now.value - new Date(clock.since).getTime()) / 60000 : 0
      const over = !!clock.since && stretch >= clock.bound_min
      return { ...clock, stretch, over, mark: `${clock.key} ${clock.since}` }
    }),
  )
  const ringing = computed(() =>
    [...timers.value, ...clocks.value].filter((one) => one.over && !heard.value.has(one.mark)),
  )
  let turn = 0
  const running = setInterval(() => {
    tick.value = Date.now()
    if (ringing.value.length && turn++ % 6 === 0) ring()
  }, 500)
  watch(
    () => ringing.value.length,
    (count) => {
      ringTitle(count > 0)
    },
  )
  onScopeDispose(() => {
    clearInterval(running)
    ringTitle(false)
  })
  function hush() {
    heard.value = new Set([...heard.value, ...ringing.value.map((one) => one.mark)])
  }
  return { timers, clocks, ringing, hush }
}
export type Timers = ReturnType<typeof useTimers>
