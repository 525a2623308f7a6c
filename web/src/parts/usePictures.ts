import { ref } from 'vue'
import { answer, api, ProblemError, SILENT, type Schemas } from '../api/client'

export type Picture = Schemas['PictureShown']
type Said = { subject?: string; note?: string; day?: string }

/** Bring pictures to a system, one after another; what is refused says why and the others go on. */
export function usePictures(system: () => number) {
  const busy = ref(0)
  const refused = ref('')

  async function bring(files: FileList | File[] | null, said: Said = {}): Promise<Schemas['PictureKept'][]> {
    refused.value = ''
    const kept: Schemas['PictureKept'][] = []
    const all = [...(files ?? [])]
    busy.value = all.length
    for (const file of all) {
      try {
        kept.push(await one(file, said))
      } catch (fault) {
        if (!(fault instanceof ProblemError)) throw fault
        refused.value = `${file.name}: ${fault.message}`
      }
      busy.value--
    }
    return kept
  }
  /** Sent again under its key after no answer, it is kept once. */
  async function one(file: File, said: Said): Promise<Schemas['PictureKept']> {
    const key = `picture-${crypto.getRandomValues(new Uint32Array(4)).join('-')}`
    const params = { path: { system_id: system() }, header: { 'Idempotency-Key': key }, query: said }
    const send = () =>
      answer(
        api.POST('/api/systems/{system_id}/pictures', {
          params,
          body: file as never,
          bodySerializer: (body: unknown) => body as Blob,
          headers: { 'Content-Type': file.type || 'application/octet-stream' },
        }),
      )
    try {
      return await send()
    } catch (fault) {
      if (fault instanceof ProblemError && fault.problem.status === SILENT.status) return await send()
      throw fault
    }
  }
  return { bring, busy, refused }
}
