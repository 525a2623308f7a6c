import { computed, ref, watch, type Ref } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { useCommands } from '../../parts/useCommands'

export type RoundTask = Schemas['RoundTaskShown']
const keyOf = (system: number, task: RoundTask) => `${system} ${task.task} ${task.due} ${task.step_id ?? ''}`

/** A planned change is done at the tank, through its runbook. */
export const byRunbook = (task: RoundTask) => task.planned && task.task === 'water_change'
/** What says nothing without what was found is not ticked, but told; everything else is ticked. */
export const isTick = (task: RoundTask) => !byRunbook(task) && !task.told

/** The ticks of a round: kept on this device until it is finished, so that a reload loses none. */
export function useRound(data: Ref<Schemas['DayRound'] | undefined>) {
  const commands = useCommands()
  const ticked = ref(new Set<string>())
  const changes = ref<Record<string, Schemas['ChangedBody']>>({})
  const minutes = ref('')
  const when = ref('')
  const shelf = computed(() => `salttide.round.${data.value?.day ?? ''}`)

  watch(
    shelf,
    (name) => {
      ticked.value = new Set(JSON.parse(localStorage.getItem(name) ?? '[]') as string[])
      changes.value = JSON.parse(localStorage.getItem(`${name}.changed`) ?? '{}') as typeof changes.value
    },
    {
      immediate: true,
    },
  )
  function tick(system: number, task: RoundTask, on: boolean, changed?: Schemas['ChangedBody']) {
    if (changed) {
      changes.value = { ...changes.value, [keyOf(system, task)]: changed }
      localStorage.setItem(`${shelf.value}.changed`, JSON.stringify(changes.value))
    }
    const now = new Set(ticked.value)
    if (on) now.add(keyOf(system, task))
    else now.delete(keyOf(system, task))
    ticked.value = now
    localStorage.setItem(shelf.value, JSON.stringify([...now]))
  }
  /** Ticks everything but a water change, which is ticked with its water. */
  function tickAll() {
    for (const { system, task } of open.value)
      if (task.task !== 'water_change' && !isTicked(system, task)) tick(system, task, true)
  }
  const isTicked = (system: number, task: RoundTask) => ticked.value.has(keyOf(system, task))
  const open = computed(() =>
    (data.value?.systems ?? []).flatMap((one) =>
      one.tasks.filter(isTick).map((task) => ({ system: one.system_id, task })),
    ),
  )
  const done = computed(() => open.value.filter((each) => isTicked(each.system, each.task)))

  /** Record all that is ticked, or nothing. */
  async function finish() {
    const body = {
      minutes: minutes.value,
      when: when.value,
      done: done.value.map((each) => ({
        system_id: each.system,
        task: each.task.task,
        due: each.task.due,
        step_id: each.task.step_id,
        changed: changes.value[keyOf(each.system, each.task)] ?? null,
      })),
    }
    const kept = await commands.run(() =>
      command((header) => api.POST('/api/rota/round/finish', { params: { header }, body })),
    )
    if (kept) {
      localStorage.removeItem(shelf.value)
      localStorage.removeItem(`${shelf.value}.changed`)
      changes.value = {}
      ticked.value = new Set()
      minutes.value = ''
      when.value = ''
    }
  }
  const changedOf = (system: number, task: RoundTask) => changes.value[keyOf(system, task)]
  return { ...commands, minutes, when, tick, tickAll, changedOf, isTicked, open, done, finish }
}
