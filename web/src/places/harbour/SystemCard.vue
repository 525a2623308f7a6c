<script setup lang="ts">
import type { Schemas } from '../../api/client'
import TideStaff from '../../parts/TideStaff.vue'

defineProps<{ system: Schemas['SystemGlance']; days: number }>()
const quiet = ['in_band', 'no_band']
</script>

<template>
  <article class="card one">
    <header>
      <router-link :to="{ name: 'sheet', params: { system: system.id } }" class="name">{{
        system.name
      }}</router-link>
      <i :class="system.act ? 'magenta' : 'soft'">{{ system.standing }}</i>
    </header>
    <p class="soft about">{{ system.volume }}{{ system.stock ? ` · ${system.stock}` : '' }}</p>
    <p class="reason">{{ system.reason }}</p>
    <div class="middle">
      <div>
        <div class="note">days ahead</div>
        <TideStaff :marks="system.marks" :days="days" :height="216" :width="126" opens />
      </div>
      <table>
        <caption class="visually-hidden">
          Present values of
          {{
            system.name
          }}
        </caption>
        <tbody>
          <tr v-for="item in system.parameters" :key="item.parameter" :class="{ out: item.verdict.out }">
            <th scope="row">{{ item.name }}</th>
            <td>
              {{ item.text }} <span class="unit">{{ item.unit }}</span>
              <div v-if="!quiet.includes(item.verdict.position)" class="words">{{ item.verdict.words }}</div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <footer>
      <div class="next"><b>Next</b> {{ system.next_title }}</div>
      <div v-if="system.can_fail.length" class="fails soft">
        <router-link :to="{ name: 'failures', params: { system: system.id } }">Can fail</router-link>:
        {{ system.can_fail.join(', ') }}
      </div>
      <div class="ways">
        <v-btn size="small" variant="flat" :to="{ name: 'sheet', params: { system: system.id } }"
          >Sheet</v-btn
        >
        <v-btn size="small" :to="{ name: 'bench', params: { system: system.id } }">Test</v-btn>
        <span class="grow" />
        <span class="soft">{{ system.minutes_today }} min today</span>
      </div>
    </footer>
  </article>
</template>

<style scoped>
.one {
  display: flex;
  flex-direction: column;
  padding: 14px 16px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
}
.name {
  font-size: 1.25rem;
  font-weight: 700;
  text-decoration: none;
}
.name:hover {
  text-decoration: underline;
}
.about {
  font-size: 0.875rem;
}
.reason {
  margin: 8px 0;
  min-height: 2.8em;
}
.middle {
  display: grid;
  grid-template-columns: 126px minmax(0, 1fr);
  gap: 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-size: 0.85rem;
  align-self: start;
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--soft);
  padding: 2px 4px 2px 0;
  vertical-align: top;
}
td {
  text-align: right;
  white-space: nowrap;
  font-weight: 600;
  padding: 2px 0;
}
.words {
  white-space: normal;
  font-weight: 400;
  font-style: italic;
  font-size: 0.78rem;
  line-height: 1.15;
  color: var(--soft);
}
.out td,
.out .words {
  white-space: normal;
  color: var(--magenta);
}
footer {
  margin-top: auto;
  padding-top: 10px;
}
.next {
  border-top: 1px solid var(--line);
  padding: 8px 0;
}
.ways {
  display: flex;
  gap: 8px;
  align-items: center;
}
</style>
