import { computed, reactive, ref, watch } from 'vue'
import { answer, api, command, ProblemError, type Schemas } from '../../api/client'
import { useRefresh } from '../../api/queries'
import { useNotices } from '../../parts/notices'
import type { Try } from './useTry'

export type AddKind = 'reading' | 'change' | 'dose'

/** Something new on the sheet: a reading, a change or a dose on a day; tried while it is typed. */
export function useAdd(system: number, offer: () => Schemas['PlanOffer'] | undefined, plan: Try) {
  const notices = useNotices()
  const refresh = useRefresh()
  const kind = ref<AddKind>()
  const form = reactive({ parameter: '', text: '', day: '', when: '', percent: '', additive: 0, amount: '' })
  const refused = ref<ProblemError>()
  const asked = ref(false)

  function open(which: AddKind, day = '', parameter = '') {
    kind.value = which
    refused.value = undefined
    asked.value = false
    Object.assign(form, {
      parameter: parameter || form.parameter || (offer()?.parameters[0]?.key ?? ''),
      day: day || offer()?.today || '',
      percent: form.percent || String(offer()?.percent ?? 10),
      additive: form.additive || (offer()?.additives[0]?.id ?? 0),
    })
  }
  function close() {
    kind.value = undefined
    plan.leave()
  }
  const work = computed<Schemas['NewWork'] | undefined>(() => {
    const { day, percent, additive, amount } = form
    if (!day) return undefined
    if (kind.value === 'change' && Number(percent) > 0)
      return { kind: 'change', day, percent: Number(percent), additive_id: null, amount: '' }
    if (kind.value === 'dose' && amount.trim())
      return { kind: 'dose', day, percent: 10, additive_id: additive, amount }
    return undefined
  })
  watch(work, (value) => {
    refused.value = undefined
    asked.value = false
    if (value) plan.attempt({ added: value })
    else plan.leave()
  })
  watch(
    () => form.text,
    () => ((refused.value = undefined), (asked.value = false)),
  )
  /** What is wrong with what is typed, at its field: by the last try, or by the refusal. */
  const wrong = computed(() => {
    const found = refused.value?.problem.fields ?? plan.problem.value?.problem.fields ?? []
    return Object.fromEntries(
      found.map((each) => [
        each.field.split('.').at(-1)!,
        `${each.message}${each.accepted ? `: ${each.accepted}` : ''}`,
      ]),
    )
  })

  async function keep() {
    try {
      const kept = await sent(kind.value)
      if (!kept) return
      notices.recorded(kept)
      form.text = form.amount = form.when = ''
      close()
      await refresh()
    } catch (fault) {
      if (!(fault instanceof ProblemError)) throw fault
      refused.value = fault
      asked.value = /right\?|again/.test(fault.message + (fault.problem.fields[0]?.message ?? ''))
    }
  }
  function sent(which?: AddKind) {
    const path = { system_id: system }
    if (which === 'reading')
      return command((header) =>
        api.POST('/api/systems/{system_id}/bench', {
          params: { path, header },
          body: {
            when: form.when,
            rows: [
              {
                parameter: form.parameter as Schemas['Parameter'],
                text: form.text,
                confirmed: asked.value,
                unit: '',
                instrument: '',
                note: '',
                picture_id: null,
              },
            ],
          },
        }),
      )
    if (which === 'dose' && work.value)
      return command((header) =>
        api.POST('/api/systems/{system_id}/plan/doses', {
          params: { path, header },
          body: { ...work.value!, although: asked.value },
        }),
      )
    return which === 'change' && work.value ? planned(work.value) : undefined
  }
  /** A change goes through the plan of the Change place, with what is usual there. */
  async function planned(change: Schemas['NewWork']) {
    const { request } = await answer(
      api.GET('/api/systems/{system_id}/change', { params: { path: { system_id: system } } }),
    )
    if (!request) return undefined
    const body = {
      ...request,
      fraction_percent: change.percent,
      start: change.day,
      salinity: null,
      alkalinity: null,
      replace: false,
    }
    return command((header) =>
      api.POST('/api/systems/{system_id}/change/plans', {
        params: { path: { system_id: system }, header },
        body,
      }),
    )
  }
  return { kind, form, wrong, asked, open, close, keep }
}
