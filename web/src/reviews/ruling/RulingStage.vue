<script setup lang="ts">
// The board: bands down, levels across. The chosen box's evidence is always open
// beside it. Other rules can be tried: the old shapes stay as ghosts.
import { computed, onMounted, ref, watch } from 'vue'
import { api, ask, type Board, type BoardCell, type Refusal, type Schemas } from '../../shared/api/client'
import { megahertz, words } from '../../shared/figures'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import TwoWholes from '../../shared/shapes/TwoWholes.vue'
import { cellKey, useReview } from '../review'
import TypedLine from '../../shared/TypedLine.vue'
import BoxEvidence from './BoxEvidence.vue'

const book = useReview()
const review = computed(() => book.review!)
const kept = ref<Board | null>(null)
const tried = ref<Board | null>(null)
const books = ref<Schemas['RulebookBook'][]>([])
const trouble = ref('')
const chosen = ref('')
const rules = ref({ ...review.value.rules })

const board = computed(() => tried.value ?? kept.value)
const differs = computed(() => JSON.stringify(rules.value) !== JSON.stringify(review.value.rules))
const rows = computed(() => {
  const out = new Map<string, BoardCell[]>()
  for (const c of board.value?.cells ?? []) {
    const key = `${c.cell.band.name}${c.cell.mode === 'FM' ? '' : ` ${c.cell.mode}`}`
    out.set(key, [...(out.get(key) ?? []), c])
  }
  return [...out.entries()]
})
const levels = computed(() => [...new Set((board.value?.cells ?? []).map((c) => c.cell.level))])
const open = computed(() => board.value?.cells.find((c) => cellKey(c.cell) === chosen.value) ?? null)
/** The frequencies really measured on a band, of power and emissions. */
function measured(cells: BoardCell[]): string {
  const all = cells.flatMap((c) => [...c.frequencies_hz, ...(c.emissions.sweeps.length ? [c.emissions.frequency_hz] : [])])
  return [...new Set(all)].sort((a, b) => a - b).map(megahertz).join(', ') || 'nothing measured'
}
const ghost = (c: BoardCell) => kept.value?.cells.find((k) => cellKey(k.cell) === cellKey(c.cell))

async function fetchBoard(query: { rule_book?: string; decision_rule?: 'guarded' | 'simple'; scheme?: 'tolerance' | 'percent'; source_swr?: number }) {
  return ask(api.GET('/api/v1/reviews/{id}/board', { params: { path: { id: review.value.id }, query } }))
}

onMounted(async () => {
  try {
    ;[books.value, kept.value] = await Promise.all([ask(api.GET('/api/v1/rule-books')), fetchBoard({})])
    const worst = kept.value.cells.find((c) => c.verdict === kept.value?.emissions.verdict) ?? kept.value.cells[0]
    if (worst) chosen.value = cellKey(worst.cell)
  } catch (e) {
    trouble.value = (e as Refusal).words
  }
})

watch(
  rules,
  async (r) => {
    if (!differs.value) {
      tried.value = null
      return
    }
    try {
      tried.value = await fetchBoard({ rule_book: r.rule_book, decision_rule: r.decision_rule, scheme: r.scheme, source_swr: r.source_swr ?? 0 })
    } catch (e) {
      trouble.value = (e as Refusal).words
    }
  },
  { deep: true },
)

/** Empty takes the typical value; what is no SWR leaves the kept one. */
function typeSWR(typed: string | number) {
  const v = Number(String(typed).replace(',', '.'))
  if (String(typed).trim() === '') rules.value = { ...rules.value, source_swr: undefined }
  else if (v >= 1) rules.value = { ...rules.value, source_swr: v }
  else trouble.value = 'Give an SWR of 1 or more, or nothing for the typical 3.'
}

async function keep() {
  const { subject, claims } = review.value
  book.save({ subject, claims: claims.map((c) => ({ text: c.text, source: c.source, read_on: c.read_on })), rules: rules.value })
  await book.flush()
  kept.value = await fetchBoard({})
  tried.value = null
}
</script>

<template>
  <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  <p v-if="board && board.cells.length === 0" class="soft">Nothing to rule on yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink>, key it and sweep it.</p>
  <div v-else-if="board" class="stage">
    <TwoWholes :power="board.power" :emissions="board.emissions" :size="46" />
    <p class="headline">{{ words(board.headline) }}</p>
    <div class="by">
      <label>Rule book<ElSelect v-model="rules.rule_book" aria-label="Rule book"><ElOption v-for="b in books" :key="b.id" :value="b.id" :label="b.title" /></ElSelect></label>
      <label>Decision<ElSelect v-model="rules.decision_rule" aria-label="Decision rule"><ElOption value="guarded" label="guarded by the uncertainty" /><ElOption value="simple" label="simple acceptance" /></ElSelect></label>
      <label>Claim counts as made<ElSelect v-model="rules.scheme" aria-label="Claim scheme"><ElOption value="tolerance" :label="`within ${rules.tolerance_db} dB`" /><ElOption value="percent" :label="`at ${rules.pass_percent} % of it`" /></ElSelect></label>
      <label class="swr">SWR at harmonics<TypedLine :value="rules.source_swr ? String(rules.source_swr) : ''" name="source-swr" placeholder="3, typical" @commit="typeSWR" /></label>
      <span v-if="differs" class="trying"><ElButton type="primary" @click="keep">Keep these rules</ElButton> <ElButton @click="rules = { ...review.rules }">Back</ElButton></span>
      <span v-else class="soft">{{ board.rules.recalled ? 'this book is recalled from memory, not checked' : board.rules.house ? 'house practice, not law' : '' }}</span>
    </div>
    <div class="two">
      <table>
        <thead><tr><th /><th v-for="l in levels" :key="l">{{ l }}</th></tr></thead>
        <tbody>
          <tr v-for="[name, cells] in rows" :key="name">
            <th>{{ name }}<br /><span class="soft">{{ measured(cells) }}</span></th>
            <td v-for="l in levels" :key="l">
              <template v-for="c in cells.filter((x) => x.cell.level === l)" :key="cellKey(c.cell)">
                <button type="button" class="box" :aria-pressed="cellKey(c.cell) === chosen" @click="chosen = cellKey(c.cell)">
                  <span class="line"><RulingShape :verdict="c.power" :size="24" /><RulingShape v-if="tried && ghost(c)!.power !== c.power" :verdict="ghost(c)!.power" :size="24" ghost />
                    <span><b>power</b> {{ words(c.power_why) }}</span></span>
                  <span class="line"><RulingShape :verdict="c.verdict" :size="24" /><RulingShape v-if="tried && ghost(c)!.verdict !== c.verdict" :verdict="ghost(c)!.verdict" :size="24" ghost />
                    <span><b>emissions</b> {{ words(c.why) }}</span></span>
                  <span v-for="note in c.notes" :key="note.short" class="doubt" :title="words(note.detail)">{{ note.short }}</span>
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
      <BoxEvidence v-if="open" :box="open" />
    </div>
  </div>
</template>

<style scoped>
.headline {
  font: 400 20px/1.35 Fraunces, Georgia, serif;
  margin: 12px 0 0;
}
.by {
  display: flex;
  gap: 26px;
  align-items: end;
  margin: 14px 0 16px;
}
.by label {
  font-size: 14px;
  color: var(--soft);
  width: 205px;
}
.by .swr {
  width: 190px;
}
.by .soft {
  font-size: 14px;
  padding-bottom: 6px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(0, 1fr);
  gap: 30px;
  align-items: start;
}
table {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 6px 10px 6px 0;
  vertical-align: top;
}
thead th:first-child {
  width: 92px;
}
th .soft {
  font-size: 13px;
  font-weight: 400;
}
td {
  border: 1px solid var(--hair);
  padding: 0;
  vertical-align: top;
  height: 1px;
}
.box {
  all: unset;
  cursor: pointer;
  display: grid;
  gap: 8px;
  align-content: start;
  padding: 10px;
  width: 100%;
  height: 100%;
  box-sizing: border-box;
  font-size: 14px;
  line-height: 1.3;
}
.box:hover {
  background: var(--press);
}
.box[aria-pressed='true'] {
  box-shadow: inset 0 0 0 2px var(--ink);
}
.box:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
.doubt {
  border-left: 3px solid var(--amber);
  padding-left: 8px;
}
.line {
  display: flex;
  gap: 8px;
  align-items: start;
}
</style>
