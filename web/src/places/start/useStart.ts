import { computed, reactive, ref } from 'vue'
import { api, command, type ProblemError, refusal, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useDraft } from '../../parts/draft'
import { typed } from '../../parts/numbers'
import { blank, setupBody } from '../setup/setupForm'

export const ASKED = [
  { key: 'water_change', name: 'Water change' },
  { key: 'scrape_front', name: 'Scraped the front' },
  { key: 'skimmer_cup', name: 'Emptied the skimmer cup' },
] as const

/** The first day as it is typed: everything but the name and the litres may be left blank. */
export function useStart(setup: () => Schemas['SetupAnswer']) {
  const refresh = useRefresh()
  const form = reactive({
    system: { ...blank(setup()), shape: 'litres' as Schemas['Shape'] },
    preset: 'soft_corals',
    salt: '',
    strength: '',
    additives: true,
    results: Object.fromEntries(setup().bands.map((row) => [row.parameter, ''])),
    confirmed: false,
    last: Object.fromEntries(ASKED.map((task) => [task.key, ''])),
  })
  const draft = useDraft('start', form)
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const begun = ref<Schemas['Started']>()
  const wrong = (field: string) => refused.value?.at(field) ?? refused.value?.at(`system.${field}`)
  const doubted = computed(() => !!refused.value?.problem.detail?.includes('right?'))

  function body(): Schemas['FirstDayBody'] {
    // Not asked here, and in the units that were chosen last.
    form.system.numbers = blank(setup()).numbers
    for (const row of setup().bands) {
      const band = row.presets[form.preset]
      form.system.bands[row.parameter] = {
        low: band?.low.text ?? '',
        high: band?.high.text ?? '',
        aim: '',
        reason: '',
      }
    }
    const results = Object.entries(form.results).filter(([, text]) => text.trim())
    const last = Object.entries(form.last).filter(([, day]) => day)
    return {
      system: setupBody(form.system),
      salt: form.salt,
      salt_g_l: form.strength.trim() ? typed(form.strength) : null,
      additives: form.additives,
      results: results.map(([parameter, text]) => ({ parameter, text, confirmed: form.confirmed })),
      last: Object.fromEntries(last),
    } as Schemas['FirstDayBody']
  }
  async function begin() {
    busy.value = true
    refused.value = undefined
    try {
      begun.value = await command((header) => api.POST('/api/start', { params: { header }, body: body() }))
      draft.forget()
      await refresh()
    } catch (fault) {
      refused.value = refusal(fault)
    } finally {
      busy.value = false
    }
  }
  return { form, draft, refused, busy, begun, wrong, doubted, begin }
}
