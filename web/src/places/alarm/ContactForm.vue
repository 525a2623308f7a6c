<script setup lang="ts">
import type { Schemas } from '../../api/client'
import DraftNote from '../../parts/DraftNote.vue'
import NumberField from '../failure/NumberField.vue'
import ContactFields from './ContactFields.vue'
import MailFields from './MailFields.vue'
import { useContacts } from './useContacts'

/** Who is told, when, and by which server. */
const props = defineProps<{ stored: Schemas['AlarmSetupBody'] }>()
const { form, draft, busy, wrong, save, add, remove, test, tests, testing } = useContacts(props.stored)
</script>

<template>
  <form class="card" aria-labelledby="told-title" @submit.prevent="save">
    <h2 id="told-title">Who is told</h2>
    <DraftNote :draft="draft" />
    <p class="note">
      This browser says it on every page. Whoever is away is told by a web address that takes messages, or by
      e-mail.
    </p>
    <ContactFields
      v-for="(_, at) in form.contacts"
      :key="at"
      v-model="form.contacts[at]!"
      :wrong="(field: string) => wrong(`contacts.${at}.${field}`)"
      :saved="!draft.dirty.value"
      :testing="testing"
      @remove="remove(at)"
      @test="test(form.contacts[at]!.name)"
    />
    <div v-if="tests.length" role="status" class="tests">
      <p v-for="one in tests" :key="one.words" :class="{ magenta: !one.arrived }">{{ one.words }}.</p>
    </div>
    <v-btn size="small" @click="add">Add a person or a service</v-btn>
    <div v-if="form.contacts.length" class="fields">
      <NumberField v-model="form.look_min" label="Others told after" unit="min" :error="wrong('look_min')" />
      <NumberField
        v-model="form.again_min"
        label="Repeated (0: once)"
        unit="min"
        zero
        :error="wrong('again_min')"
      />
    </div>
    <MailFields v-if="form.contacts.some((one) => one.email)" v-model="form" :wrong="wrong" />
    <div class="acts">
      <v-btn type="submit" :loading="busy" :disabled="!draft.dirty.value">Save</v-btn>
      <v-btn variant="text" :disabled="!draft.dirty.value" @click="draft.restart()">Discard</v-btn>
    </div>
  </form>
</template>

<style scoped>
form {
  padding: 12px 16px;
  display: grid;
  gap: 10px;
  justify-items: start;
}
form > * {
  min-width: 0;
  max-width: 100%;
}
h2 {
  font-size: 1.1rem;
}
form > .fields {
  width: 100%;
}
:deep(.fields) {
  clear: both;
}
:deep(fieldset) {
  width: 100%;
  border: 0;
  border-top: 1px solid var(--line);
  padding: 8px 0 4px;
  min-width: 0;
}
:deep(legend) {
  float: left;
  width: 100%;
  font-weight: 600;
  margin-bottom: 8px;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
