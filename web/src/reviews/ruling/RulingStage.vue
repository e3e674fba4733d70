<script setup lang="ts">
// The board: bands down, levels across. The chosen box's evidence is always open
// beside it. Other rules can be tried: the old shapes stay as ghosts.
import { computed, ref, watch } from 'vue'
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
const levels = computed(() => [...new Set((board.value?.cells ?? []).map((c) => c.cell.level))].filter((l) => l !== ''))
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
</script>

<template>
  <p v-if="said" class="danger" role="alert">{{ said }}</p>
  <p v-if="board && board.cells.length === 0" class="soft">Nothing to rule on yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink>, key it and sweep it.</p>
  <div v-else-if="board" class="stage">
    <KindWholes :kinds="board.kinds" :size="46" />
    <p class="headline">{{ words(board.headline) }}</p>
    <div class="by">
      <label>Rule book<ElSelect v-model="rules.rule_book" aria-label="Rule book"><ElOption v-for="b in books.answer.value ?? []" :key="b.id" :value="b.id" :label="b.title" /></ElSelect></label>
      <label>Decision<ElSelect v-model="rules.decision_rule" aria-label="Decision rule"><ElOption value="guarded" label="guarded by the uncertainty" /><ElOption value="simple" label="simple acceptance" /></ElSelect></label>
      <label>Claim made<ElSelect v-model="rules.scheme" aria-label="Claim scheme"><ElOption value="tolerance" :label="`within ${rules.tolerance_db} dB`" /><ElOption value="percent" :label="`at ${rules.pass_percent} % of it`" /></ElSelect></label>
      <label class="swr">{{ rules.scheme === 'tolerance' ? 'Within, dB' : 'Of the claim, %' }}<TypedLine :value="String(rules.scheme === 'tolerance' ? rules.tolerance_db : rules.pass_percent)" :name="rules.scheme === 'tolerance' ? 'tolerance-db' : 'pass-percent'" @commit="typeClaim" /></label>
      <label class="swr">SWR at harmonics<TypedLine :value="rules.source_swr ? String(rules.source_swr) : ''" name="source-swr" placeholder="3, typical" @commit="typeSWR" /></label>
      <span v-if="differs" class="trying"><ElButton type="primary" @click="keepRules">Keep these rules</ElButton> <ElButton @click="rules = { ...review.rules }">Back</ElButton></span>
      <span v-else class="soft">{{ board.rules.recalled ? 'this book is recalled from memory, not checked' : board.rules.house ? 'house practice, not law' : '' }}</span>
    </div>
    <p v-if="others" class="soft others" data-own-books>Its own book for each: {{ others }}.</p>
    <div class="two">
      <table>
        <thead><tr><th /><th v-for="l in levels" :key="l">{{ l }}</th><th v-if="wide">whole band</th></tr></thead>
        <tbody>
          <tr v-for="[name, cells] in rows" :key="name">
            <th>{{ name || 'the radio' }}<br v-if="name" /><span v-if="name" class="soft">{{ measured(cells) }}</span></th>
            <td v-for="l in columns" :key="l">
              <template v-for="c in cells.filter((x) => x.cell.level === l)" :key="c.name">
                <button type="button" class="box" :aria-pressed="c.name === chosen" @click="chosen = c.name">
                  <span v-for="x in c.boxes" :key="x.kind" class="line" :data-kind="x.kind"><RulingShape :verdict="x.verdict" :size="24" /><RulingShape v-if="tried && was(c, x.kind) && was(c, x.kind) !== x.verdict" :verdict="was(c, x.kind)!" :size="24" ghost />
                    <span v-if="l"><b>{{ x.kind }}</b> {{ words(x.why) }}</span><b v-else :title="words(x.why)">{{ titleOf(x.kind) }}</b></span>
                  <template v-for="x in c.boxes" :key="x.kind"><span v-for="note in x.notes" :key="note.short" class="doubt" :title="words(note.detail)">{{ note.short }}</span></template>
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="open">
        <label v-if="open.cell.band.name" class="own">Rule book for {{ open.cell.band.name }}
          <select name="band-book" :value="review.rules.books?.[open.cell.band.name] ?? ''" @change="ownBook(open.cell.band.name, ($event.target as HTMLSelectElement).value)">
            <option value="">{{ usual(open.cell.band.name) }}</option>
            <option v-for="b in books.answer.value ?? []" :key="b.id" :value="b.id">{{ b.title }}</option>
          </select>
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
.others {
  margin: -6px 0 14px;
  font-size: 14px;
}
.own {
  display: block;
  font-size: 14px;
  color: var(--soft);
  padding-left: 22px;
}
.own select {
  max-width: 100%;
  text-overflow: ellipsis;
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  padding: 3px 0;
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
