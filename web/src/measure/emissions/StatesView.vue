<script setup lang="ts">
// Where a line comes from is found by switching: states as rows, lines as columns, the dot
// the larger the stronger; a ring where it was looked for and is not above that.
import { computed } from 'vue'
import { dbm, megahertz, words } from '../../shared/figures'
import { api, ask, useAsked, type Schemas } from '../../shared/server'
import { type Standing } from '../../shared/StandingWords.vue'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import SweepList from './SweepList.vue'

const props = defineProps<{ review: string; band: string }>()
defineEmits<{ say: [id: string, standing: Standing, reason: string] }>()
const asked = useAsked('states', () => [props.review] as const, (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions/study', { params: { path: { id } } })))
type Board = Schemas['EmissionsStateBoard']
// The band that is looked at comes first.
const boards = computed(() => (asked.answer.value?.boards ?? []).filter((b) => b.columns.length > 0).sort((a, b) => Number(b.band === props.band) - Number(a.band === props.band)))
const range = (b: Board) => {
  const all = b.rows.flatMap((r) => r.cells).flatMap((c) => (c.level_dbm == null ? [] : [c.level_dbm]))
  return { low: Math.min(...all), high: Math.max(...all) }
}
/** The radius of a dot, in px: 10 dB are 3 of them, on a scale that is drawn beside the board. */
const reach = (b: Board) => ({ low: 10 * Math.floor(range(b).low / 10), high: 10 * Math.ceil(range(b).high / 10) })
function size(b: Board, level: number): number {
  const { low, high } = reach(b)
  return high - low < 1 ? 12 : 4 + 12 * ((level - low) / (high - low))
}
/** Round levels whose dots are drawn for comparison, at most five. */
function marks(b: Board): number[] {
  const { low, high } = reach(b)
  const step = 10 * Math.max(1, Math.ceil((high - low) / 40))
  return Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => low + i * step)
}
const isSpur = (name: string) => name.startsWith('spur')
/** Harmonics stand together, then what is none. */
const order = (b: Board) => b.columns.map((_, i) => i).sort((x, y) => Number(isSpur(b.columns[x]!.name)) - Number(isSpur(b.columns[y]!.name)) || b.columns[x]!.frequency_hz - b.columns[y]!.frequency_hz)
const heads = (b: Board) => {
  const spurs = b.columns.filter((c) => isSpur(c.name)).length
  return b.heard ? [] : [{ says: 'the carrier and its multiples', of: b.columns.length - spurs }, { says: 'other lines', of: spurs }].filter((h) => h.of)
}
</script>

<template>
  <p v-if="asked.trouble.value" class="danger" role="alert">{{ asked.trouble.value }}</p>
  <p v-if="asked.answer.value && !boards.length" class="soft">No line was seen in any sweep yet. Take one, then others with the radio off, in standby, at another level or on another supply, and say under “State” which: what goes away with a thing comes from it.</p>
  <section v-for="b in boards" :key="b.band + b.mode + b.heard + b.frequency_hz" :data-board="b.band + (b.heard ? ' heard' : '')">
    <h2>{{ b.heard ? `Heard in its own receiver, ${b.band}` : `${b.band}, carrier ${megahertz(b.frequency_hz)}` }}</h2>
    <div class="scroll" data-plot role="group" tabindex="0" :aria-label="`States and lines of ${b.band}`">
      <table>
        <thead>
          <tr v-if="heads(b).length > 1" class="group"><th /><th v-for="h in heads(b)" :key="h.says" scope="colgroup" :colspan="h.of">{{ h.says }}</th></tr>
          <tr><th /><th v-for="c in order(b).map((i) => b.columns[i]!)" :key="c.frequency_hz" scope="col">{{ c.name.replace('spur at ', '').replace(' harmonic', '') }}<br /><span class="soft">{{ c.name.startsWith('spur') ? (b.heard ? 'line' : 'spur') : c.frequency_hz <= 0 ? 'of all of it' : megahertz(Math.round(c.frequency_hz / 1e5) * 1e5) }}</span></th></tr>
        </thead>
        <tbody>
          <tr v-for="r in b.rows" :key="r.name" :data-row="r.name">
            <th>
              {{ r.name }}
              <span v-if="r.standby" class="standby" data-standby><RulingShape :verdict="r.standby.verdict" :size="18" /> {{ r.standby.book }}: {{ words(r.standby.why) }}</span>
            </th>
            <td v-for="(c, i) in order(b).map((n) => r.cells[n]!)" :key="i">
              <template v-if="c.level_dbm != null"><svg width="34" height="34" aria-hidden="true"><circle cx="17" cy="17" :r="size(b, c.level_dbm)" class="dot" /></svg><span>{{ dbm(c.level_dbm) }}</span></template>
              <template v-else-if="c.below_dbm != null"><svg width="34" height="34" aria-hidden="true"><circle cx="17" cy="17" r="5" class="ring" /></svg><span class="soft">not above {{ dbm(c.below_dbm) }}</span></template>
              <span v-else class="soft">not looked</span>
            </td>
          </tr>
          <tr class="says"><th>goes with</th><td v-for="c in order(b).map((i) => b.columns[i]!)" :key="c.frequency_hz">{{ c.says }}</td></tr>
        </tbody>
      </table>
    </div>
    <p class="soft measure" data-dot-scale><span v-for="m in marks(b)" :key="m"><svg width="34" height="34" aria-hidden="true"><circle cx="17" cy="17" :r="size(b, m)" class="dot" /></svg>{{ words(`${m} dBm`) }}</span><span><svg width="34" height="34" aria-hidden="true"><circle cx="17" cy="17" r="5" class="ring" /></svg>looked for, not above</span></p>
    <p v-for="c in b.combs" :key="c.row + c.spacing_hz" class="comb" data-comb>{{ c.row }}: {{ words(c.says) }}</p>
    <p v-if="b.heard" class="soft">Levels as the receiver showed them. What lies under the floor noted may be masked by the antenna’s own noise: repeat it into a load to hear less of that.</p>
    <p v-if="b.ask" class="ask">Would tell more: {{ b.ask }}.</p>
  </section>
  <SweepList v-if="asked.answer.value?.sweeps.length" title="Taken in other states: they rule on nothing" :sweeps="asked.answer.value.sweeps" @say="(id, standing, reason) => $emit('say', id, standing, reason)" />
</template>

<style scoped>
section {
  margin-top: 12px;
}
.scroll {
  overflow-x: auto;
}
.measure {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  font-size: 13px;
}
.measure > span {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.group th {
  border-bottom: 0;
  font-weight: 400;
  color: var(--soft);
  max-width: none;
}
table {
  border-collapse: collapse;
}
th,
td {
  padding: 4px 14px 4px 0;
  border-bottom: 1px solid var(--hair);
  text-align: center;
  min-width: 86px;
  max-width: 150px;
  font-size: 14px;
  vertical-align: top;
}
tbody th {
  text-align: left;
  font-size: 16px;
}
.standby {
  display: block;
  font-size: 13px;
  font-weight: 400;
  max-width: 150px;
}
td svg {
  display: block;
  margin: 0 auto;
}
.dot {
  fill: var(--ink);
}
.ring {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 2 2;
}
.says td {
  text-align: left;
  font-size: 13px;
  line-height: 1.3;
}
.comb,
.ask {
  border-left: 3px solid var(--soft);
  padding: 2px 10px;
}
</style>
