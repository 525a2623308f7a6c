import { useQuery } from '@pinia/colada'
import { computed, onBeforeUnmount, ref } from 'vue'
import { answer, api, ProblemError, type Schemas, refusal } from '../../api/client'
import { importsQuery, useRefresh } from '../../api/queries'
import { BASE } from '../../parts/example'

export type Import = Schemas['ImportShown']
type Act = 'check' | 'keep' | 'stop' | 'take-back' | 'again'

/** One file on its way into the ledger: brought, mapped, checked, kept; watched while it is read. */
export function useImport() {
  const refresh = useRefresh()
  const { data: choices } = useQuery(importsQuery)
  const item = ref<Import>()
  const map = ref({ columns: {} } as Schemas['MapBody'])
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const running = computed(() => item.value?.state === 'checking' || item.value?.state === 'keeping')
  let timer = 0

  async function act(run: () => Promise<Import>) {
    refused.value = undefined
    busy.value = true
    try {
      show(await run())
    } catch (fault) {
      refused.value = refusal(fault)
    } finally {
      busy.value = false
    }
  }
  function show(found: Import) {
    const was = item.value
    item.value = found
    if (was?.id !== found.id) map.value = { ...found.mapping }
    window.clearTimeout(timer)
    if (running.value) timer = window.setTimeout(() => void watchOn(found.id), 400)
    else if (was && was.state !== found.state) void refresh()
  }
  async function watchOn(id: string) {
    await act(() => answer(api.GET('/api/imports/{command}', { params: { path: { command: id } } })))
  }
  async function bring(file: File) {
    item.value = undefined
    await act(async () => {
      const response = await fetch(`${BASE}/api/imports?name=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        headers: { 'Idempotency-Key': crypto.randomUUID() },
        body: file,
      })
      const body = (await response.json()) as unknown
      if (!response.ok) throw new ProblemError(body as ConstructorParameters<typeof ProblemError>[0])
      return body as Import
    })
  }
  function send(name: Act) {
    const params = { path: { command: item.value!.id } }
    const ways: Record<Act, () => Promise<Import>> = {
      check: () => answer(api.POST('/api/imports/{command}/check', { params, body: map.value })),
      keep: () => answer(api.POST('/api/imports/{command}/save', { params })),
      stop: () => answer(api.POST('/api/imports/{command}/stop', { params })),
      'take-back': () => answer(api.POST('/api/imports/{command}/undo', { params })),
      again: () => answer(api.POST('/api/imports/{command}/redo', { params })),
    }
    return act(ways[name])
  }
  onBeforeUnmount(() => window.clearTimeout(timer))
  return { choices, item, map, refused, busy, running, bring, send, show }
}
