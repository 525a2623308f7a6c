import { reactive, ref, watch } from 'vue'
import { answer, api, command, ProblemError } from '../../api/client'

const empty = () => ({
  done: [] as string[],
  measured: {} as Record<string, string>,
  found: '',
  used: '',
  advised: '',
})

/** A report as it is written: kept in this browser until it is sent, so that nothing typed is lost. */
export function useReport(token: string, system: number) {
  const key = `visit ${token} ${system}`
  const told = reactive({ ...empty(), ...JSON.parse(localStorage.getItem(key) ?? '{}') })
  const pictures = ref<number[]>([])
  const sent = ref('')
  const busy = ref(false)
  const problem = ref('')
  const refused = ref<ProblemError>()
  watch(told, () => localStorage.setItem(key, JSON.stringify(told)))

  async function attempt(act: () => Promise<unknown>) {
    busy.value = true
    problem.value = sent.value = ''
    refused.value = undefined
    try {
      await act()
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault
      problem.value = fault.message
    } finally {
      busy.value = false
    }
  }
  const send = () =>
    attempt(async () => {
      const params = { path: { token } }
      const body = { ...told, system_id: system, pictures: pictures.value }
      await command((header) =>
        api.POST('/api/visits/{token}/reports', { params: { ...params, header }, body }),
      )
      Object.assign(told, empty())
      pictures.value = []
      sent.value = 'The report is sent. Thank you.'
    })
  const bring = (files: FileList) =>
    attempt(async () => {
      for (const file of files) {
        const header = { 'Idempotency-Key': `visit-${crypto.getRandomValues(new Uint32Array(4)).join('-')}` }
        const kept = await answer(
          api.POST('/api/visits/{token}/systems/{system_id}/pictures', {
            params: { path: { token, system_id: system }, header },
            body: file as never,
            bodySerializer: (body: unknown) => body as Blob,
            headers: { 'Content-Type': file.type || 'application/octet-stream' },
          }),
        )
        pictures.value.push(kept.id)
      }
    })
  const wrong = (field: string) => refused.value?.at(field)
  return { told, pictures, sent, problem, busy, send, bring, wrong }
}
