import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import { typed } from '../../parts/numbers'

type Text = Record<string, string>
export const MEASURES = [
  ['length_cm', 'Inside length', 'cm'],
  ['width_cm', 'Inside width', 'cm'],
  ['depth_cm', 'Water depth, return running', 'cm'],
  ['displaced_l', 'Displaced by rock and sand', 'L'],
  ['sump_l', 'Sump while running', 'L'],
] as const

/** A system being set up or edited. Everything is kept as typed until the API takes it. */
export function useSetup(setup: Schemas['SetupAnswer'], system?: Schemas['SystemAnswer']) {
  const router = useRouter()
  const refresh = useRefresh()
  const notices = useNotices()
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const form = reactive({
    name: system?.name ?? '',
    stock: system?.stock ?? '',
    stage: system?.stage ?? 'running',
    panel: system?.panel ?? 'glass',
    sand: system?.sand ?? 'siphoned',
    method_note: system?.method_note ?? '',
    gear: system?.gear ?? ['heater', 'powerhead'],
  })
  const geometry = reactive<Text>(
    Object.fromEntries(
      MEASURES.map(([key, , unit]) => [key, text(system?.geometry[key] ?? (unit === 'L' ? 0 : ''))]),
    ),
  )
  const numbers = reactive<Text>({
    change_percent: text(system?.change_percent ?? 10),
    change_every_days: text(system?.change_every_days ?? 7),
    largest_percent: text(system?.largest_percent ?? 25),
    limit_alkalinity: text(system?.limit_alkalinity ?? setup.limit_alkalinity.value.toFixed(2)),
    limit_salinity: text(system?.limit_salinity ?? 1),
    bucket_l: text(system?.bucket_l ?? 15),
  })
  const bands = reactive<Record<string, { low: string; high: string }>>(
    Object.fromEntries(
      setup.bands.map((row) => {
        const band = system?.bands?.[row.parameter as keyof typeof system.bands]
        return [row.parameter, { low: text(band?.low ?? ''), high: text(band?.high ?? '') }]
      }),
    ),
  )
  function usePreset(key: string) {
    for (const row of setup.bands) {
      const band = row.presets[key]
      bands[row.parameter] = { low: band?.low.text ?? '', high: band?.high.text ?? '' }
    }
  }
  if (!system) usePreset('soft_corals')

  const sizes = () =>
    Object.fromEntries(MEASURES.map(([key]) => [key, typed(geometry[key]!)])) as Schemas['GeometryBody']
  const volume = usePreview(sizes, (body, signal) =>
    MEASURES.every(([key]) => geometry[key]!.trim())
      ? answer(api.POST('/api/systems/volume', { body, signal }))
      : undefined,
  )
  const wrong = computed(() => (field: string) => refused.value?.at(field))
  const wrongSize = computed(
    () => (key: string) => volume.problem.value?.at(key) ?? refused.value?.at(`geometry.${key}`),
  )

  function body(): Schemas['SystemBody'] {
    const filled = Object.entries(bands).filter(([, band]) => band.low.trim() || band.high.trim())
    return {
      ...form,
      geometry: sizes(),
      ...(Object.fromEntries(Object.entries(numbers).map(([key, value]) => [key, typed(value)])) as object),
      bands: Object.fromEntries(
        filled.map(([key, band]) => [key, { low: typed(band.low), high: typed(band.high) }]),
      ),
      started_on: system?.started_on ?? '',
    } as Schemas['SystemBody']
  }
  async function keep() {
    busy.value = true
    refused.value = undefined
    try {
      const stored = system
        ? await answer(
            api.PUT('/api/systems/{system_id}', { params: { path: { system_id: system.id } }, body: body() }),
          )
        : await command((header) => api.POST('/api/systems', { params: { header }, body: body() }))
      notices.say(`${stored.name} is set up.`)
      await refresh()
      await router.push({ name: 'sheet', params: { system: stored.id } })
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault
    } finally {
      busy.value = false
    }
  }
  return { form, geometry, numbers, bands, volume, wrong, wrongSize, refused, busy, usePreset, keep }
}

function text(value: string | number): string {
  return String(value)
}
