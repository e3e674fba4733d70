<script setup lang="ts">
// The board: bands down, levels across. The chosen box's evidence is always open
// beside it. Other rules can be tried: the old shapes stay as ghosts.
import { useHelp } from '../../shared/help'
import { computed, nextTick, ref, watch } from 'vue'
import { inMode, megahertz, words } from '../../shared/figures'
import { api, ask, copy, same, useAsked, type Board, type BoardCell, type Schemas } from '../../shared/server'
import KindWholes from '../../shared/shapes/KindWholes.vue'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import TypedLine from '../../shared/TypedLine.vue'
import { useReview, type Content } from '../review'
import BoxEvidence from './BoxEvidence.vue'

type Rules = Schemas['RecordRules']
const book = useReview()
const review = computed(() => book.review!)
const rules = ref<Rules>(copy(review.value.rules))
const chosen = ref('')
const trouble = ref('')
watch(() => review.value.rules, (now, before) => { if (same(rules.value, before)) rules.value = copy(now) })

const fetchBoard = (id: string, r: Rules | null): Promise<Board> =>
  ask(api.GET('/api/v1/reviews/{id}/board', { params: { path: { id }, query: r ? { rule_book: r.rule_book, decision_rule: r.decision_rule, scheme: r.scheme, tolerance_db: r.tolerance_db, pass_percent: r.pass_percent, source_swr: r.source_swr ?? 0 } : {} } }))
const asked = useAsked<[string, null], Board>('board', () => [book.id, null], fetchBoard)
const differs = computed(() => !same(rules.value, review.value.rules))
const trial = useAsked('board', () => (differs.value ? [book.id, rules.value] : null), fetchBoard)
const books = useAsked('rule books', () => [], () => ask(api.GET('/api/v1/rule-books')))

const kept = asked.answer
const tried = trial.answer
const said = computed(() => trouble.value || asked.trouble.value || trial.trouble.value)
const board = computed(() => tried.value ?? kept.value)
const rows = computed(() => {
  const out = new Map<string, BoardCell[]>()
  for (const c of board.value?.cells ?? []) {
    const key = `${c.cell.band.name}${inMode(c.cell.mode)}`
    out.set(key, [...(out.get(key) ?? []), c])
  }
  return [...out.entries()]
})
const levels = computed(() => board.value?.levels ?? [])
const wide = computed(() => (board.value?.cells ?? []).some((c) => c.cell.level === ''))
const columns = computed(() => (wide.value ? [...levels.value, ''] : levels.value))
const open = computed(() => board.value?.cells.find((c) => c.name === chosen.value) ?? null)
watch(kept, (b) => {
  if (!b || b.cells.some((c) => c.name === chosen.value)) return
  const worst = b.kinds.at(1)?.verdict
  chosen.value = (b.cells.find((c) => c.boxes.some((x) => x.verdict === worst)) ?? b.cells[0])?.name ?? ''
}, { immediate: true })
/** The frequencies really measured on a band. */
function measured(cells: BoardCell[]): string {
  const all = cells.flatMap((c) => c.boxes.flatMap((b) => b.frequencies_hz))
  return [...new Set(all)].sort((a, b) => a - b).map(megahertz).join(', ') || 'nothing measured'
}
const titleOf = (kind: string) => board.value?.kinds.find((k) => k.kind === kind)?.title.toLowerCase() ?? kind
const was = (c: BoardCell, kind: string) => kept.value?.cells.find((k) => k.name === c.name)?.boxes.find((b) => b.kind === kind)?.verdict

/** Arrows walk the board. */
function walk(e: KeyboardEvent) {
  const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] }[e.key]
  if (!by || e.ctrlKey || e.metaKey || e.altKey) return
  e.preventDefault()
  const now = open.value
  const row = rows.value.findIndex(([, cells]) => cells.some((c) => c.name === now?.name))
  const column = columns.value.indexOf(now?.cell.level ?? '')
  for (let r = row + by[1]!, k = column + by[0]!; r >= 0 && r < rows.value.length && k >= 0 && k < columns.value.length; r += by[1]!, k += by[0]!) {
    const to = rows.value[r]![1].find((c) => c.cell.level === columns.value[k])
    if (!to) continue
    chosen.value = to.name
    void nextTick(() => document.querySelector('.board .box[aria-pressed=true]')?.scrollIntoView({ block: 'nearest' }))
    return
  }
}

/** Empty takes the typical value; what is no SWR leaves the kept one. */
function typeSWR(typed: string | number) {
  const v = Number(String(typed).replace(',', '.'))
  trouble.value = ''
  if (String(typed).trim() === '') rules.value = { ...rules.value, source_swr: undefined }
  else if (v >= 1) rules.value = { ...rules.value, source_swr: v }
  else trouble.value = 'Give an SWR of 1 or more, or nothing for the typical 3.'
}

/** By how much a claim may be missed; what is no such figure leaves the kept one. */
function typeClaim(typed: string) {
  const v = Number(typed.replace(',', '.'))
  const field = rules.value.scheme === 'tolerance' ? 'tolerance_db' : 'pass_percent'
  trouble.value = ''
  if (v > 0 && (field === 'tolerance_db' ? v <= 20 : v <= 100)) rules.value = { ...rules.value, [field]: v }
  else trouble.value = field === 'tolerance_db' ? 'Give a tolerance above 0 dB, at most 20 dB.' : 'Give a share of the claim above 0 %, at most 100 %.'
}

/** What the bands are judged by that is not the book of the review: their service's, their region's. */
const others = computed(() => {
  const r = board.value?.rules
  if (!r || differs.value) return ''
  const by = new Map<string, string[]>()
  for (const b of r.bands ?? []) by.set(b.book, [...(by.get(b.book) ?? []), b.band])
  const said = [...by].map(([title, bands]) => `${bands.join(', ')} by ${title}`)
  return [...(r.rule_book === rules.value.rule_book ? [] : [`${said.length ? 'the others' : 'all'} by ${r.book}`]), ...said].join('; ')
})
const usual = (band: string) => {
  const r = board.value?.rules
  const own = r?.bands?.find((b) => b.band === band)?.book ?? (r?.rule_book === review.value.rules.rule_book ? '' : r?.book)
  return own && !review.value.rules.books?.[band] ? `its own, ${own}` : 'as usual'
}

/** A band may be judged by a book of its own: 2 m by one, a licence-free service by another. */
async function ownBook(band: string, id: string) {
  const typed = book.typed!
  const { [band]: _, ...rest } = typed.now.rules.books ?? {}
  void _
  const own = id ? { ...rest, [band]: id } : rest
  typed.change({ ...typed.now, rules: { ...copy(typed.now.rules), books: Object.keys(own).length ? own : undefined } } as Content)
  await typed.flush()
}

async function keepRules() {
  const typed = book.typed!
  typed.change({ ...typed.now, rules: copy(rules.value) } as Content)
  await typed.flush()
}
useHelp(() => ({ title: 'Ruling', keys: [['↑ ↓ ← →', 'walk the board']], words: ['board', 'ruling', 'box', 'margin', 'coverage', 'decision rule', 'passes so far', 'too close to call', 'no limit', 'void', 'ghost', 'rule book', 'k = 2'] }))
</script>

<template>
  <p v-if="said" class="danger" role="alert">{{ said }}</p>
  <p v-if="board && board.cells.length === 0" class="soft">Nothing to rule on yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink>, key it and sweep it.</p>
  <div v-else-if="board" class="stage">
    <KindWholes :kinds="board.kinds" :size="46" />
    <p class="headline">{{ words(board.headline) }}</p>
    <div class="by">
      <label class="wide">Rule book<ElSelect v-model="rules.rule_book" aria-label="Rule book" filterable><ElOption v-for="b in books.answer.value ?? []" :key="b.id" :value="b.id" :label="b.title" /></ElSelect></label>
      <label>Decision<ElSelect v-model="rules.decision_rule" aria-label="Decision rule"><ElOption value="guarded" label="guarded" /><ElOption value="simple" label="simple" /></ElSelect></label>
      <label>Claim made<ElSelect v-model="rules.scheme" aria-label="Claim scheme"><ElOption value="tolerance" :label="`within ${rules.tolerance_db} dB`" /><ElOption value="percent" :label="`at ${rules.pass_percent} % of it`" /></ElSelect></label>
      <label class="short">{{ rules.scheme === 'tolerance' ? 'Within, dB' : 'Of the claim, %' }}<TypedLine :value="String(rules.scheme === 'tolerance' ? rules.tolerance_db : rules.pass_percent)" :name="rules.scheme === 'tolerance' ? 'tolerance-db' : 'pass-percent'" @commit="typeClaim" /></label>
      <label class="short">SWR at harmonics<TypedLine :value="rules.source_swr ? String(rules.source_swr) : ''" name="source-swr" placeholder="3, typical" @commit="typeSWR" /></label>
      <span v-if="differs" class="trying"><ElButton type="primary" size="small" @click="keepRules">Keep these rules</ElButton> <ElButton size="small" @click="rules = { ...review.rules }">Back</ElButton></span>
    </div>
    <p class="soft others">{{ board.rules.recalled ? 'This book is recalled from memory, not checked. ' : board.rules.house ? 'House practice, not law. ' : '' }}<span v-if="others" data-own-books>Its own book for each: {{ others }}.</span></p>
    <div class="two">
      <div class="board" role="group" tabindex="0" aria-label="The board: bands down, levels across" @keydown="walk">
        <table>
          <thead><tr><th /><th v-for="l in levels" :key="l" scope="col">{{ l }}</th><th v-if="wide" scope="col">whole band</th></tr></thead>
          <tbody>
            <tr v-for="[name, cells] in rows" :key="name">
              <th scope="row" :title="measured(cells)">{{ name || 'the radio' }}</th>
              <td v-for="l in columns" :key="l">
                <button v-for="c in cells.filter((x) => x.cell.level === l)" :key="c.name" type="button" class="box" :class="{ several: !l }" :aria-pressed="c.name === chosen" @click="chosen = c.name">
                  <span class="unseen">{{ c.name }}: </span>
                  <span v-for="x in c.boxes" :key="x.kind" class="one" :data-kind="x.kind" :title="`${titleOf(x.kind)}: ${words(x.why)}`">
                    <span class="unseen">{{ titleOf(x.kind) }} </span>
                    <span class="shapes"><RulingShape :verdict="x.verdict" :size="l ? 40 : 24" /><RulingShape v-if="tried && was(c, x.kind) && was(c, x.kind) !== x.verdict" class="was" :verdict="was(c, x.kind)!" :size="l ? 40 : 24" ghost /></span>
                    <small v-if="l">{{ words(x.figure) || ' ' }}</small>
                    <i v-if="x.notes.length" class="mark" :title="x.notes.map((n) => words(n.detail)).join('; ')">{{ x.notes[0]!.short }}</i>
                  </span>
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="soft legend">In each box power stands left, emissions right: the share of the claim, and the room to the limit. <template v-if="wide">Under <i>whole band</i> are the further tests.</template></p>
      </div>
      <div v-if="open">
        <label v-if="open.cell.band.name" class="own">Rule book for {{ open.cell.band.name }}
          <ElSelect :model-value="review.rules.books?.[open.cell.band.name] ?? ''" :empty-values="[null, undefined]" :aria-label="`Rule book for ${open.cell.band.name}`" data-band-book @update:model-value="ownBook(open.cell.band.name, $event)">
            <ElOption value="" :label="usual(open.cell.band.name)" />
            <ElOption v-for="b in books.answer.value ?? []" :key="b.id" :value="b.id" :label="b.title" />
          </ElSelect>
        </label>
        <BoxEvidence :key="open.name" :cell="open" />
      </div>
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
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: end;
  margin: 12px 0 8px;
}
.by label {
  font-size: 14px;
  color: var(--soft);
  width: 142px;
}
.by .wide {
  width: 212px;
}
.by .short {
  width: 118px;
}
.others {
  margin: 0 0 10px;
  font-size: 14px;
}
.own {
  display: block;
  font-size: 14px;
  color: var(--soft);
  padding: 0 0 8px 22px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.9fr) minmax(300px, 1fr);
  gap: 26px;
  align-items: start;
}
/* Many bands scroll, with their names and the levels kept in sight. */
.board {
  max-height: max(420px, calc(100vh - 250px));
  overflow-y: auto;
}
.board:focus-visible {
  outline: 1px solid var(--soft);
}
table {
  border-collapse: separate;
  border-spacing: 0;
  width: 100%;
  table-layout: fixed;
}
th {
  text-align: left;
  font-weight: 600;
  padding: 6px 8px 6px 0;
  vertical-align: middle;
  overflow-wrap: anywhere;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--sheet);
  text-align: center;
  font-weight: 400;
  color: var(--soft);
  padding: 2px;
}
thead th:first-child {
  width: 84px;
}
td {
  border-top: 1px solid var(--hair);
  padding: 0;
  vertical-align: top;
}
.box {
  all: unset;
  cursor: pointer;
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 2px 6px;
  padding: 7px 3px 5px;
  width: 100%;
  box-sizing: border-box;
}
.box:hover {
  background: var(--press);
}
.box[aria-pressed='true'] {
  box-shadow: inset 0 0 0 2px var(--ink);
}
.box:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.unseen {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
.one {
  position: relative;
  display: grid;
  justify-items: center;
  min-width: 50px;
}
.several {
  gap: 3px;
}
.several .one {
  min-width: 0;
}
.shapes {
  position: relative;
  display: grid;
}
/* What stood there before, behind what is tried. */
.was {
  position: absolute;
  left: -9px;
  top: 7px;
  z-index: -1;
}
.shapes {
  z-index: 0;
}
.one small {
  font-size: 14px;
  white-space: nowrap;
  line-height: 1.3;
}
.mark {
  font-style: normal;
  font-size: 12px;
  line-height: 1.15;
  text-align: center;
  border-top: 2px solid var(--amber);
  max-width: 84px;
}
.legend {
  font-size: 13px;
}
@media (max-width: 1150px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .board {
    max-height: none;
  }
}
</style>
