import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { troubleQuery } from '../../api/queries'

/** The key of one tank: what was answered and left out so far, in order, so that each can be taken back. */
export function useKey(system: number) {
  const said = ref<{ question: string; answer: string }[]>([])
  const answers = computed(() =>
    said.value.filter((one) => one.answer).map((one) => `${one.question}:${one.answer}`),
  )
  const skipped = computed(() => said.value.filter((one) => !one.answer).map((one) => one.question))
  /** Questions whose answer by the record is not what is meant. */
  const unlike = ref<string[]>([])
  const { data, error, refetch, isLoading } = useQuery(() =>
    troubleQuery({ id: system, answers: answers.value, skipped: skipped.value, unlike: unlike.value }),
  )
  function say(question: string, answer: string) {
    said.value = [...said.value.filter((one) => one.question !== question), { question, answer }]
  }
  function forget(question: string, byRecord: boolean) {
    if (byRecord) unlike.value = [...unlike.value, question]
    else said.value = said.value.filter((one) => one.question !== question)
  }
  const back = () => (said.value = said.value.slice(0, -1))
  function restart() {
    said.value = []
    unlike.value = []
  }
  return { data, error, refetch, asking: isLoading, said, unlike, say, forget, back, restart }
}
