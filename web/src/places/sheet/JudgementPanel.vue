<script setup lang="ts">
import { caseRoute } from '../../parts/caseRoute'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, command, type Schemas } from '../../api/client'
import { judgementQuery } from '../../api/queries'
import CautionNote from '../../parts/CautionNote.vue'
import ChemText from '../../parts/ChemText.vue'
import { useCommands } from '../../parts/useCommands'

/** What it all comes to: the first finding in full, the others behind it, and what waits for them. */
const props = defineProps<{ system: number; quiet?: boolean }>()
const { data } = useQuery(() => judgementQuery(props.system))
const opened = ref<string>()
const warned = ref<string>()
const all = ref(false)
const shown = computed(() => (all.value ? data.value?.findings : data.value?.findings.slice(0, 1)) ?? [])
const more = computed(() => (data.value ? data.value.findings.length + data.value.waiting.length - 1 : 0))
const acts = useCommands()
/** What came between two tests: recorded, or that nothing did. It is not asked again. */
function answer(question: Schemas['UnrecordedShown'], said: Schemas['AnswerOffered']['answer']) {
  const { parameter, since, until } = question
  const body = { parameter, since, until, answer: said }
  void acts.run(() =>
    command((header) =>
      api.POST('/api/systems/{system_id}/unexplained', {
        params: { header, path: { system_id: props.system } },
        body,
      }),
    ),
  )
}
const key = (rule: string, index: number) => `${rule}-${index}`
</script>

<template>
  <div v-if="!data && !quiet" class="reserve low" />
  <section
    v-if="data && (data.findings.length || data.cases.length || !quiet)"
    class="card judged"
    aria-labelledby="judged-title"
  >
    <h2 id="judged-title" class="visually-hidden">Judgement</h2>
    <p v-if="!data.findings.length && !data.cases.length" class="well">
      Nothing needs doing: every result is where it should be and nothing is heading out of band.
    </p>
    <article
      v-for="(finding, index) in shown"
      :key="key(finding.rule, index)"
      :class="{ first: index === 0 }"
    >
      <h3>
        {{ finding.words }}
        <span class="sure">{{ finding.certainty }} · {{ finding.move }}</span>
      </h3>
      <p><ChemText :text="finding.reason" /></p>
      <p v-if="finding.case" class="advice">
        <b>{{ finding.case.title }}:</b> {{ finding.case.words }} {{ finding.case.to_do }}
      </p>
      <p v-else class="advice"><ChemText :text="finding.advice" /></p>
      <p v-if="finding.question" class="answers">
        <v-btn
          v-for="one in finding.question.answers"
          :key="one.answer"
          size="small"
          variant="outlined"
          :disabled="acts.busy.value"
          @click="answer(finding.question, one.answer)"
          >{{ one.words }}</v-btn
        >
      </p>
      <p class="small row">
        <button
          class="plain-link"
          type="button"
          :aria-expanded="opened === key(finding.rule, index)"
          @click="opened = opened === key(finding.rule, index) ? undefined : key(finding.rule, index)"
        >
          Evidence
        </button>
        <button
          v-if="finding.cautions.length"
          class="plain-link magenta"
          type="button"
          :aria-expanded="warned === key(finding.rule, index)"
          @click="warned = warned === key(finding.rule, index) ? undefined : key(finding.rule, index)"
        >
          {{ finding.cautions.map((caution) => caution.title).join(' · ') }}
        </button>
        <router-link
          v-if="finding.remedy || finding.case"
          :to="{ name: 'remedy', params: { system, cause: finding.cause } }"
          class="plain-link"
          >{{ finding.case ? 'the plan you chose' : 'what you can do' }}</router-link
        >
        <button
          v-if="index === 0 && more > 0"
          class="plain-link more"
          type="button"
          :aria-expanded="all"
          @click="all = !all"
        >
          {{ all ? 'only the first' : `${more} more ${more === 1 ? 'finding' : 'findings'}` }}
        </button>
      </p>
      <template v-if="warned === key(finding.rule, index)">
        <CautionNote
          v-for="caution in finding.cautions"
          :key="caution.key"
          :caution="caution"
          class="caution-note"
        />
      </template>
      <div v-if="opened === key(finding.rule, index)" class="rests small">
        <ul>
          <li v-for="fact in finding.looked_at" :key="fact">{{ fact }}</li>
          <li v-for="words in finding.explained" :key="words">{{ words }}</li>
        </ul>
        <p><b>This would change with:</b> {{ finding.unless }}</p>
        <p class="soft">Rule: {{ finding.rule_name }}. It can be switched off in Set-up.</p>
      </div>
    </article>
    <p v-for="one in data.cases" :key="one.id" class="followed">
      <router-link :to="caseRoute(system, one)">{{ one.title }}</router-link>:
      <span class="soft">{{ one.words }} {{ one.to_do }}</span>
    </p>
    <template v-if="all && data.waiting.length">
      <h3 class="later">Waiting</h3>
      <ul class="small">
        <li v-for="(waiting, index) in data.waiting" :key="index">
          {{ waiting.words }} <span class="soft">waits for: {{ waiting.first }}</span>
        </li>
      </ul>
    </template>
    <span v-if="data.rules_off" class="soft small off">
      {{ data.rules_off }} {{ data.rules_off === 1 ? 'rule is' : 'rules are' }} switched off
    </span>
  </section>
</template>

<style scoped>
.judged {
  padding: 10px 16px;
  margin: 8px 0 10px;
}
h3 {
  font-size: 1rem;
  font-weight: 700;
}
.first h3 {
  font-size: 1.15rem;
}
.sure {
  font-weight: 400;
  font-style: italic;
  font-size: 0.875rem;
  color: var(--soft);
  margin-left: 8px;
}
article + article,
.later {
  border-top: 1px solid var(--line);
  margin-top: 10px;
  padding-top: 10px;
}
.advice {
  font-weight: 600;
  margin-top: 2px;
}
.answers {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 8px 0 4px;
}
.small {
  font-size: 0.875rem;
}
.rests ul {
  padding-left: 18px;
  margin: 4px 0;
}
.caution-note {
  margin: 8px 0;
}
.row {
  display: flex;
  gap: 4px 18px;
  flex-wrap: wrap;
  margin-top: 4px;
}
.more {
  margin-left: auto;
}
.off {
  display: block;
  margin-top: 6px;
}
</style>
