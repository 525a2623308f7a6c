<script setup lang="ts">
import PageHead from '../../parts/PageHead.vue'
import { WORDS } from './words'
</script>

<template>
  <div class="page">
    <PageHead title="How Salt Tide thinks">
      <span class="soft">one page, so that you can check it</span>
    </PageHead>
    <section>
      <svg
        viewBox="0 0 320 150"
        role="img"
        aria-label="A strip: readings in a band, now, and the dashed line ahead"
      >
        <rect x="30" y="20" width="280" height="110" class="ground" />
        <rect x="30" y="45" width="280" height="55" class="band" />
        <path d="M30 60 L80 68 L120 78 L170 90 L200 104" class="line" />
        <path d="M200 104 L250 116 L310 128" class="line ahead" />
        <g class="marks">
          <circle cx="80" cy="68" r="5" />
          <circle cx="120" cy="78" r="5" />
          <circle cx="170" cy="90" r="5" />
          <circle cx="200" cy="104" r="5" />
        </g>
        <path d="M200 12 V138" class="now" />
        <text x="204" y="18" class="now-word">now</text>
        <text x="34" y="58" class="small">band</text>
      </svg>
      <div>
        <h2>Your tests, and what happened between them</h2>
        <p>
          Every result is kept with the instrument that gave it and how far that instrument scatters. Water
          changes, doses, top-offs and feeding are booked as amounts, so that the app knows what must have
          moved a parameter, and what is left over is what your animals used.
        </p>
        <p>
          It draws that on from here: the dashed line, with the range it expects. Few or contradicting tests
          make the range wide; the app says so instead of pretending.
        </p>
      </div>
    </section>
    <section>
      <svg viewBox="0 0 320 150" role="img" aria-label="One cause first: a reading, its cause, one plan">
        <g class="box">
          <rect x="14" y="50" width="82" height="46" rx="5" />
          <rect x="120" y="50" width="82" height="46" rx="5" />
          <rect x="226" y="50" width="82" height="46" rx="5" />
        </g>
        <path d="M98 73 h18 M204 73 h18" class="line" />
        <text x="55" y="78" text-anchor="middle">result</text>
        <text x="161" y="78" text-anchor="middle">cause</text>
        <text x="267" y="78" text-anchor="middle">one step</text>
      </svg>
      <div>
        <h2>One cause, one step</h2>
        <p>
          A result that cannot be true is doubted before the water is. Salinity comes before the ions,
          magnesium before alkalinity, air before buffer. What is urgent comes first; what can wait is left
          alone, and the app says until when.
        </p>
        <p>
          Each judgement opens to its evidence, and each amount to its working. Rules you disagree with can be
          switched off, bands and limits are yours to set.
        </p>
      </div>
    </section>
    <section>
      <svg viewBox="0 0 320 150" role="img" aria-label="A tank with a mark on the glass and two buckets">
        <rect x="30" y="30" width="150" height="100" class="ground" />
        <rect x="31" y="62" width="148" height="67" class="band" />
        <path d="M30 44 H180" class="line ahead" />
        <path d="M186 44 V62" class="line" />
        <text x="192" y="57">mark</text>
        <path d="M220 96 h30 l-4 34 h-22 z M264 96 h30 l-4 34 h-22 z" class="bucket" />
      </svg>
      <div>
        <h2>Slowly, within limits</h2>
        <p>
          Each tank has a most that may move in a day, set by its most delicate animal. Plans are spread over
          as many days as that takes, with a test in between, and stop when a test disagrees.
        </p>
        <p>
          At the tank nothing goes in before it matches, pumps and heater are off before a hand goes in, and
          what really happened is what is recorded.
        </p>
      </div>
    </section>
    <h2>Words</h2>
    <dl>
      <template v-for="[name, meaning] in Object.values(WORDS)" :key="name">
        <dt>{{ name }}</dt>
        <dd>{{ meaning }}</dd>
      </template>
    </dl>
    <p class="soft mt-4">
      What the app does not do: it does not replace a veterinary surgeon, a licensed electrician or plumber,
      local codes, or a product’s own safety sheet.
    </p>
  </div>
</template>

<style scoped>
.page {
  max-width: 860px;
}
section {
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  gap: 22px;
  align-items: center;
  margin: 14px 0 22px;
}
svg {
  width: 100%;
}
p + p {
  margin-top: 8px;
}
.ground,
.box rect {
  fill: var(--card);
  stroke: var(--line);
}
.band {
  fill: var(--shallow);
}
.line,
.bucket {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.ahead {
  stroke-dasharray: 5 4;
}
.marks circle {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.now {
  stroke: var(--magenta);
  stroke-width: 1.6;
}
text {
  fill: var(--ink);
  font-size: 14px;
}
.small {
  fill: var(--soft);
  font-size: 12px;
  font-style: italic;
}
.now-word {
  fill: var(--magenta);
  font-size: 12px;
  font-weight: 700;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 18px;
  margin-top: 8px;
}
dt {
  font-weight: 700;
}
@media (max-width: 700px) {
  section,
  dl {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
