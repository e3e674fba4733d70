<script setup lang="ts">
// Every band at every level at once: how far each product stands below its carrier, against
// its limit. Dirtier at low, or at high, is seen; so is where another term decides.
import { computed } from 'vue'
import { dbc, inMode, room, words } from '../../shared/figures'
import { api, ask, useAsked, type Board, type BoardCell, type Emissions, type Product } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ review: string; chosen: string }>()
const emit = defineEmits<{ choose: [name: string] }>()
const asked = useAsked<[string, null], Board>('board', () => [props.review, null], (id) => ask(api.GET('/api/v1/reviews/{id}/board', { params: { path: { id } } })))
const study = useAsked('states', () => [props.review] as const, (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions/study', { params: { path: { id } } })))
const says = (cells: { cell: BoardCell }[]) => study.answer.value?.levels.find((l) => l.band === cells[0]!.cell.cell.band.name && l.mode === cells[0]!.cell.cell.mode)?.says ?? ''
const W = 300
const H = 190
const deep = 100 // dB below the carrier that are drawn
const places = 11
const x = (p: Product, f0: number) => 34 + Math.min(places, (p.frequency_hz ?? p.expected_hz ?? 0) / f0 - 1) * ((W - 46) / places)
const y = (below: number) => 8 + (Math.min(deep, Math.max(0, -below)) / deep) * (H - 34)

const rows = computed(() => {
  const out = new Map<string, { cell: BoardCell; of: Emissions; drawn: { p: Product; x: number; top: number; limit: number | null }[] }[]>()
  for (const cell of asked.answer.value?.cells ?? []) {
    const box = cell.boxes.find((b) => b.kind === 'emissions')
    if (!box) continue
    const of = box.of as Emissions
    const drawn = (of.ruling?.products ?? []).filter((p) => p.dbc != null).map((p) => ({ p, x: x(p, of.frequency_hz), top: y(p.dbc!), limit: p.limit_dbc == null ? null : y(p.limit_dbc) }))
    const key = `${cell.cell.band.name}${inMode(cell.cell.mode)}`
    out.set(key, [...(out.get(key) ?? []), { cell, of, drawn }])
  }
  return [...out.entries()]
})
</script>

<template>
  <p v-if="asked.trouble.value" class="danger" role="alert">{{ asked.trouble.value }}</p>
  <p class="soft">How far each product stands below its carrier, 0 to −{{ deep }} dBc, at 2 to 10 times the carrier and beyond; the line across is its limit. A hatched one was not seen: it is not above that.</p>
  <section v-for="[band, cells] in rows" :key="band" :data-band="band">
    <h2>{{ band }}</h2>
    <p v-if="says(cells)" class="says" data-levels-say>{{ words(says(cells)) }}</p>
    <div class="row">
      <button v-for="c in cells" :key="c.cell.name" type="button" class="one" :aria-pressed="c.cell.name === chosen" :data-level="c.cell.name" @click="emit('choose', c.cell.name)">
        <span class="head"><RulingShape :verdict="c.of.said" :size="22" /> <b>{{ c.cell.cell.level || 'whole band' }}</b> <span class="soft">{{ c.of.ruling?.worst ? `${c.of.ruling.worst.name} ${room(c.of.ruling.worst)}, ${c.of.ruling.worst.decided_by ?? 'no'} term` : c.of.why }}</span></span>
        <svg v-if="c.drawn.length" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="c.drawn.map((d) => `${d.p.name} ${d.p.seen ? '' : 'not above '}${dbc(d.p.dbc)}`).join(', ')">
          <defs><pattern :id="`h ${c.cell.name}`" width="5" height="5" patternUnits="userSpaceOnUse"><path d="M0 5L5 0" class="hatch" /></pattern></defs>
          <template v-for="d in [0, 20, 40, 60, 80, 100]" :key="d"><line x1="30" :x2="W - 4" :y1="y(-d)" :y2="y(-d)" class="axis" /><text v-if="d % 40 === 0" x="26" :y="y(-d) + 4" text-anchor="end">{{ d ? `\u2212${d}` : '0' }}</text></template>
          <g v-for="(d, i) in c.drawn" :key="i">
            <rect :x="d.x - 5" :y="d.top" width="10" :height="Math.max(1, H - 26 - d.top)" :class="d.p.verdict === 'fail' ? 'over' : 'bar'" :style="d.p.seen ? {} : { fill: `url('#h ${c.cell.name}')` }" />
            <line v-if="d.limit != null" :x1="d.x - 10" :x2="d.x + 10" :y1="d.limit" :y2="d.limit" class="limit" />
            <text v-if="d.p.kind === 'harmonic' && (d.p.order ?? 99) <= 10" :x="d.x" :y="H - 10" text-anchor="middle">{{ d.p.order }}</text>
          </g>
        </svg>
      </button>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-top: 12px;
}
.row {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 18px;
}
.one {
  all: unset;
  cursor: pointer;
  padding: 8px 10px;
  border: 1px solid var(--hair);
}
.one[aria-pressed='true'] {
  background: var(--press);
}
.one:focus-visible {
  outline: 2px solid var(--ink);
}
.head {
  display: block;
  min-height: 46px;
  font-size: 15px;
}
svg {
  width: 100%;
}
.bar {
  fill: var(--ink);
}
.over {
  fill: var(--rust);
}
.hatch {
  stroke: var(--soft);
  fill: none;
}
.axis {
  stroke: var(--hair);
}
.limit {
  stroke: var(--rust);
  stroke-width: 2;
}
text {
  font-size: 12px;
  fill: var(--soft);
}
.says::first-letter {
  text-transform: uppercase;
}
.says {
  font-size: 17px;
}
</style>
