import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answer, api, command, type ProblemError, type Schemas, refusal } from '../../api/client'
import { usePreview } from '../../api/preview'
import { useRefresh } from '../../api/queries'
import { useDraft } from '../../parts/draft'
import { useNotices } from '../../parts/notices'
import { written } from '../../parts/numbers'
import { blank, setupBody, sizes, sizesTyped, type Setup } from './setupForm'

export type SetupModel = ReturnType<typeof useSetup>

/** A system being set up or edited. Everything is kept as typed until the API takes it. */
export function useSetup(setup: Schemas['SetupAnswer'], system?: Schemas['SystemAnswer']) {
  const router = useRouter()
  const refresh = useRefresh()
  const notices = useNotices()
  const refused = ref<ProblemError>()
  const busy = ref(false)
  const form: Setup = reactive(blank(setup, system))

  function usePreset(key: string) {
    // A preset says nothing of what only a laboratory measures: its bands stay as they are.
    for (const row of setup.bands.filter((one) => !one.more)) putBand(row.parameter, row.presets[key])
  }
  function putBand(parameter: string, band?: Schemas['BandShown']) {
    form.bands[parameter] = { low: band?.low.text ?? '', high: band?.high.text ?? '', aim: '', reason: '' }
  }
  /** A method starts its numbers and bands; the keeper's own stay what they are typed to be afterwards. */
  function takeSchool(question: string, key: string) {
    form.methods[question] = key
    const choice = setup.methods.find((one) => one.key === question)?.choices.find((one) => one.key === key)
    for (const [name, value] of Object.entries(choice?.sets ?? {})) form.numbers[name] = written(value)
    for (const [parameter, band] of Object.entries(choice?.bands ?? {})) putBand(parameter, band)
  }
  if (!system) usePreset('soft_corals')
  const draft = useDraft(`setup.${system?.id ?? 'new'}`, form, true)

  const volume = usePreview(
    () => sizes(form),
    (body, signal) =>
      sizesTyped(setup, form) ? answer(api.POST('/api/systems/volume', { body, signal })) : undefined,
  )
  const wrong = (field: string) => refused.value?.at(field)
  const wrongSize = (field: string) => volume.problem.value?.at(field) ?? wrong(`geometry.${field}`)
  const resized = computed(
    () => !!system && !!volume.result.value && volume.result.value.volume.text !== system.volume.text,
  )

  async function keep() {
    busy.value = true
    refused.value = undefined
    try {
      const stored = await send()
      draft.forget()
      notices.say(`${stored.name} is set up.`)
      await refresh()
      await router.push({ name: 'sheet', params: { system: stored.id } })
    } catch (fault) {
      refused.value = refusal(fault)
    } finally {
      busy.value = false
    }
  }
  function send() {
    const body = setupBody(form, system?.started_on)
    if (!system)
      return command((header) =>
        api.POST('/api/systems', { params: { header }, body: body as Schemas['SystemBody'] }),
      )
    const path = { system_id: system.id }
    const edit = { ...body, volume_since: form.always ? 'always' : 'now' } as Schemas['SystemEdit']
    return answer(api.PUT('/api/systems/{system_id}', { params: { path }, body: edit }))
  }
  return { form, draft, volume, resized, wrong, wrongSize, refused, busy, usePreset, takeSchool, keep }
}
