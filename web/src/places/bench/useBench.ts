import { computed, reactive, ref, watch } from 'vue'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'

export interface Draft {
  parameter: string
  text: string
  unit: string
  instrument: string
  note: string
  confirmed: boolean
  picture_id: number | null
}

/** A test session being typed: judged as it grows, kept on this device until the record has it. */
export function useBench(bench: Schemas['Bench']) {
  const store = `salttide.bench.${bench.system_id}`
  const notices = useNotices()
  const refresh = useRefresh()
  const drafts = reactive<Draft[]>(bench.rows.map((row) => restored(row, store)))
  const saving = ref(false)
  const refused = ref<ProblemError>()
  const when = ref('')

  watch(drafts, (now) => localStorage.setItem(store, JSON.stringify(now)), { deep: true })
  watch(
    () => drafts.map((draft) => draft.text + draft.unit + draft.instrument),
    (now, before) => now.forEach((text, i) => text !== before[i] && (drafts[i]!.confirmed = false)),
  )

  const rows = () => drafts.map((draft) => ({ ...draft })) as Schemas['RowBody'][]
  const params = { path: { system_id: bench.system_id } }
  const session = () => ({ rows: rows(), when: when.value })
  const { result, problem } = usePreview(session, (body, signal) =>
    answer(api.POST('/api/systems/{system_id}/bench/preview', { params, body, signal })),
  )
  const filled = computed(() => drafts.filter((draft) => draft.text.trim()).length)
  const judged = (index: number) => (drafts[index]?.text.trim() ? result.value?.rows[index] : undefined)

  function clear() {
    const before = drafts.map((draft) => ({ ...draft }))
    drafts.forEach((draft) =>
      Object.assign(draft, { text: '', note: '', confirmed: false, picture_id: null }),
    )
    return before
  }
  async function keep(): Promise<boolean> {
    saving.value = true
    refused.value = undefined
    try {
      const body = session()
      const kept = await command((header) =>
        api.POST('/api/systems/{system_id}/bench', { params: { ...params, header }, body }),
      )
      clear()
      when.value = ''
      notices.recorded(kept)
      void refresh()
      return true
    } catch (fault) {
      refused.value = refusal(fault)
      return false
    } finally {
      saving.value = false
    }
  }
  function empty() {
    const before = clear()
    notices.say('Emptied.', async () => drafts.forEach((draft, i) => Object.assign(draft, before[i])))
  }
  return { drafts, when, result, problem, refused, saving, filled, judged, keep, empty }
}

function restored(row: Schemas['BenchRow'], store: string): Draft {
  const fresh = {
    parameter: row.parameter,
    text: '',
    unit: row.unit,
    instrument: row.instrument,
    note: '',
    confirmed: false,
    picture_id: null,
  }
  try {
    const kept = (JSON.parse(localStorage.getItem(store) ?? '[]') as Draft[]).find(
      (draft) => draft.parameter === row.parameter,
    )
    return kept?.text ? { ...fresh, ...kept } : fresh
  } catch {
    return fresh
  }
}
