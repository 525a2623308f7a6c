<script setup lang="ts">
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import NumberField from '../failure/NumberField.vue'

/** The server that sends e-mail; its password is not stored here. */
const model = defineModel<Schemas['AlarmSetupBody']>({ required: true })
defineProps<{ wrong: (field: string) => string | undefined }>()
const SECURITY = [
  { title: 'STARTTLS (mostly port 587)', value: 'starttls' },
  { title: 'TLS (mostly port 465)', value: 'tls' },
  { title: 'none, inside your network only', value: 'none' },
]
</script>

<template>
  <fieldset>
    <legend>Mail server</legend>
    <div class="fields">
      <FieldText v-model="model.mail_host" label="Server" :error="wrong('mail_host')" />
      <NumberField v-model="model.mail_port" label="Port" :error="wrong('mail_port')" />
      <v-select v-model="model.mail_security" :items="SECURITY" label="Security" />
      <FieldText v-model="model.mail_user" label="User (empty: none)" />
      <FieldText v-model="model.mail_from" label="Sent from" :error="wrong('mail_from')" />
    </div>
    <p class="note">
      The password is read from SALTTIDE_MAIL_PASSWORD when Salt Tide starts. It is stored nowhere.
    </p>
  </fieldset>
</template>
