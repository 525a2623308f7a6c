<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { lookingQuery } from '../../api/queries'
import { useKeys } from '../../parts/keys'
import PictureInput from '../../parts/PictureInput.vue'
import WhenField from '../../parts/WhenField.vue'
import { usePictures } from '../../parts/usePictures'
import EventForm from './EventForm.vue'
import SignGroup from './SignGroup.vue'
import { useVisualCheck } from './useVisualCheck'
import { BASE } from '../../parts/example'

const props = defineProps<{ system: number; open?: boolean }>()
const { data } = useQuery(() => lookingQuery(props.system))
const look = useVisualCheck(props.system)
const { draft, signs } = look
const part = ref<'' | 'look' | 'happened'>(props.open || signs.value.length ? 'look' : '')
const last = computed(() => data.value?.checks[0])
const toggle = (name: 'look' | 'happened') => (part.value = part.value === name ? '' : name)
useKeys({ l: () => toggle('look') })
async function keep() {
  if (await look.keep()) part.value = ''
}
const wrong = (field: string) => look.problem.value?.at(field)
const { bring, busy, refused } = usePictures(() => props.system)
async function take(files: FileList) {
  draft.pictures.push(...(await bring(files)).map((kept) => kept.picture))
}
</script>

<template>
  <div v-if="!data" class="reserve line" />
  <section v-if="data" class="look" aria-labelledby="look-title">
    <div class="line">
      <h2 id="look-title">Look first</h2>
      <span class="soft last">
        <template v-if="last">{{ last.when }}: {{ last.words.join('; ') }}</template>
        <template v-else>no visual check yet</template>
      </span>
      <button class="plain-link" type="button" :aria-expanded="part === 'look'" @click="toggle('look')">
        visual check
      </button>
      <button
        class="plain-link"
        type="button"
        :aria-expanded="part === 'happened'"
        @click="toggle('happened')"
      >
        something happened
      </button>
      <router-link :to="{ name: 'trouble', params: { system } }">what is it?</router-link>
      <router-link :to="{ name: 'pictures', params: { system } }">pictures</router-link>
    </div>

    <form v-if="part === 'look'" class="card round" novalidate @submit.prevent="keep">
      <p class="note">
        Tap what you see; tap again for more of it. Anything not tapped counts as absent.
        <button v-if="last" class="plain-link" type="button" @click="look.startFrom(last.signs)">
          same as last time
        </button>
      </p>
      <SignGroup
        v-for="group in data.groups"
        :key="group.key"
        :name="group.name"
        :choices="data.signs.filter((sign) => sign.group === group.key)"
        :places="data.places"
        :seen="draft.signs"
        @touch="look.touch($event, data.amounts)"
      />
      <input
        v-model="draft.note"
        class="words"
        maxlength="1000"
        placeholder="note"
        aria-label="Note on the visual check"
      />
      <p class="pictures">
        <img v-for="one in draft.pictures" :key="one.id" :src="BASE + one.thumb" :alt="one.words" />
        <PictureInput label="add a picture" many :busy="!!busy" @files="take" />
        <span v-if="refused" class="magenta" role="alert">{{ refused }}</span>
      </p>
      <WhenField v-model="look.when.value" label="Looked earlier?" :error="wrong('when')" />
      <p v-if="look.problem.value" class="magenta" role="alert">{{ look.problem.value.message }}</p>
      <div class="ways">
        <v-btn type="submit" variant="flat" :loading="look.saving.value">
          {{ signs.length ? `Save the visual check (${signs.length})` : 'Save: nothing to note' }}
        </v-btn>
        <button v-if="signs.length" class="plain-link" type="button" @click="look.empty()">clear</button>
      </div>
    </form>

    <div v-if="part === 'happened'" class="card round">
      <p class="note">
        Events explain later changes: they appear beside the strips and are named when a trend turns.
      </p>
      <EventForm :kinds="data.kinds" :saving="look.saving.value" :wrong="wrong" :keep="look.happen" />
      <ul v-if="data.events.length" class="earlier soft">
        <li v-for="(item, index) in data.events" :key="index">{{ item.when }}: {{ item.words }}</li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.look {
  margin-bottom: 14px;
}
.line {
  display: flex;
  gap: 6px 16px;
  align-items: baseline;
  flex-wrap: wrap;
}
.last {
  font-size: 0.9rem;
  flex: 1 1 240px;
}
.round {
  padding: 14px 18px;
  display: grid;
  gap: 14px;
  margin-top: 8px;
}
.words {
  border: 1px solid var(--soft);
  border-radius: 4px;
  padding: 7px 10px;
  color: var(--ink);
  background: var(--card);
}
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
.pictures img {
  height: 56px;
}
.ways {
  display: flex;
  gap: 16px;
  align-items: center;
}
.earlier {
  list-style: none;
  padding: 0;
  font-size: 0.875rem;
}
</style>
