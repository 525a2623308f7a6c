<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import FieldText from '../../parts/FieldText.vue'
import Working from '../../parts/Working.vue'
import BandTable from './BandTable.vue'
import RuleList from './RuleList.vue'
import { MEASURES, useSetup } from './useSetup'

const props = defineProps<{ setup: Schemas['SetupAnswer']; system?: Schemas['SystemAnswer'] }>()
const set = useSetup(props.setup, props.system)
const { form, geometry, numbers } = set
const working = ref(false)
const stages = [
  { title: 'running', value: 'running' },
  { title: 'breaking in', value: 'breaking_in' },
]
const sands = props.setup.sand.map((one) => ({ title: one.name, value: one.key, remark: one.remark }))
</script>

<template>
  <h1>{{ system ? `Set-up, ${system.name}` : 'A new system' }}</h1>
  <form novalidate @submit.prevent="set.keep()">
    <div class="column">
      <section class="card">
        <h2>What it is</h2>
        <FieldText
          v-model="form.name"
          label="Name"
          type="text"
          :error="set.wrong.value('name')"
          :autofocus="!system"
        />
        <FieldText
          v-model="form.stock"
          label="What lives in it"
          type="text"
          :error="set.wrong.value('stock')"
        />
        <div class="two">
          <v-select v-model="form.stage" :items="stages" label="Stage" />
          <v-select v-model="form.panel" :items="['glass', 'acrylic']" label="Panels" />
        </div>
      </section>
      <section class="card">
        <h2>How you keep it</h2>
        <v-select v-model="form.sand" :items="sands" label="Sand" />
        <p class="note">{{ sands.find((one) => one.value === form.sand)?.remark }}</p>
        <div class="two">
          <FieldText
            v-model="numbers.change_percent!"
            label="Routine change"
            unit="%"
            :error="set.wrong.value('change_fraction') ?? set.wrong.value('change_percent')"
          />
          <FieldText
            v-model="numbers.change_every_days!"
            label="Every"
            unit="days"
            :error="set.wrong.value('change_every_days')"
          />
          <FieldText
            v-model="numbers.largest_percent!"
            label="Largest change"
            unit="%"
            :error="set.wrong.value('largest_fraction') ?? set.wrong.value('largest_percent')"
          />
          <FieldText
            v-model="numbers.bucket_l!"
            label="One bucket"
            unit="L"
            :error="set.wrong.value('bucket_l')"
          />
          <FieldText
            v-model="numbers.limit_alkalinity!"
            label="Alkalinity, most in a day"
            :unit="setup.alkalinity_unit"
            :error="set.wrong.value('limit_alkalinity')"
          />
          <FieldText
            v-model="numbers.limit_salinity!"
            label="Salinity, most in a day"
            unit="ppt"
            :error="set.wrong.value('limit_salinity')"
          />
        </div>
        <FieldText v-model="form.method_note" label="In your words" type="text" />
      </section>
    </div>
    <div class="column">
      <section class="card">
        <h2>Size</h2>
        <FieldText
          v-for="[key, label, unit] in MEASURES"
          :key="key"
          v-model="geometry[key]!"
          :label="label"
          :unit="unit"
          :error="set.wrongSize.value(key)"
        />
        <p class="net" aria-live="polite">
          <template v-if="set.volume.result.value">
            <b>{{ set.volume.result.value.volume.text }}</b> <span class="unit">L net</span>
            <button class="plain-link" type="button" :aria-expanded="working" @click="working = !working">
              show the working
            </button>
          </template>
          <span v-else class="note">The net volume appears as soon as the three sides are there.</span>
        </p>
        <Working v-if="working && set.volume.result.value" :steps="set.volume.result.value.working" />
      </section>
      <section class="card">
        <h2>Gear that matters when water is out</h2>
        <label v-for="one in setup.gear" :key="one.key" class="gear">
          <input v-model="form.gear" type="checkbox" :value="one.key" /> {{ one.name }}
          <i class="soft">{{ one.remark }}</i>
        </label>
      </section>
    </div>
    <BandTable
      :setup="setup"
      :bands="set.bands"
      :wrong="set.wrong.value"
      class="wide"
      @preset="set.usePreset"
    />
    <RuleList v-if="system" :system="system.id" class="wide" />
    <div class="wide ways">
      <p v-if="set.refused.value" class="magenta" role="alert">{{ set.refused.value.message }}</p>
      <v-btn type="submit" variant="flat" :loading="set.busy.value">{{
        system ? 'Keep the changes' : 'Set it up'
      }}</v-btn>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  margin-top: 12px;
  align-items: start;
}
.column {
  display: grid;
  gap: 14px;
}
section {
  padding: 16px 18px;
  display: grid;
  gap: 12px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.net b {
  font-size: 1.6rem;
}
.net .plain-link {
  margin-left: 14px;
}
.gear {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.gear input {
  accent-color: var(--ink);
}
.wide {
  grid-column: 1 / -1;
}
.ways {
  display: grid;
  gap: 10px;
  justify-items: start;
}
@media (max-width: 900px) {
  form {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
