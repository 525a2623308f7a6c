import { useQuery } from '@pinia/colada'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, command, type Schemas } from '../api/client'
import { openAlarmsQuery } from '../api/queries'
import { notify, useReminderSetting } from './reminders'
import { useCommands } from './useCommands'

const EVERY = 20_000
const NAME = 'salttide.name'
const TOLD = 'alarms-told'

/** Who sits at this device, as a seen alarm is signed. */
const name = ref(localStorage.getItem(NAME) ?? '')
watch(name, (typed) => localStorage.setItem(NAME, typed))
export const useOwnName = () => name

/** The alarms that are not over: asked for again and again while the page is seen, and shown by the browser once. */
export function useAlarms() {
  const { data, refetch } = useQuery(openAlarmsQuery)
  const { wanted } = useReminderSetting()
  const look = () => (document.visibilityState === 'visible' || wanted.value ? void refetch() : undefined)
  const timer = setInterval(look, EVERY)
  document.addEventListener('visibilitychange', look)
  onScopeDispose(() => {
    clearInterval(timer)
    document.removeEventListener('visibilitychange', look)
  })
  const open = computed(() => data.value?.alarms ?? [])
  watch(open, (alarms) => wanted.value && tell(alarms))
  return { open, unseen: computed(() => open.value.filter((one) => !one.seen)) }
}

/** Shows each alarm once in this browser. */
function tell(alarms: readonly Schemas['AlarmShown'][]) {
  const told = JSON.parse(localStorage.getItem(TOLD) ?? '[]') as number[]
  const fresh = alarms.filter((one) => !told.includes(one.id))
  localStorage.setItem(TOLD, JSON.stringify([...told, ...fresh.map((one) => one.id)].slice(-50)))
  for (const one of fresh)
    void notify({ key: `alarm-${one.id}`, title: `${one.system}: ${one.title}`, words: one.words })
}

/** Says that somebody here has looked at an alarm; the way back says that nobody has. */
export function useSeen() {
  const acts = useCommands()
  const put = (id: number, by: string) =>
    command((header) =>
      api.POST('/api/alarms/{alarm_id}/seen', { params: { path: { alarm_id: id }, header }, body: { by } }),
    )
  const see = (id: number) =>
    acts.runWith(
      () => put(id, name.value.trim() || 'somebody here'),
      () => put(id, ''),
    )
  return { see, busy: acts.busy }
}
