<script setup lang="ts">
// Radios beside each other: rows are units, columns bands; in a cell each level has its ring, claimed, and its dot,
// measured, on one scale of dB against the claim, so that the eye reads a column of dots. A switch turns cells to margins.
import { useHelp } from '../shared/help'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { remember } from '../shared/remember'
import { api, ask, useAsked, type Schemas } from '../shared/server'
import FrozenComparisons from './FrozenComparisons.vue'
import CompareCell from './CompareCell.vue'
import OutsideFigure from './OutsideFigure.vue'

type Row = Schemas['CompareRow']
const margins = remember('compare margins', false)
const text = ref('')
const asked = ref('')
const band = ref('')
const power = ref('')
const book = ref('')
const order = ref<'latest' | 'model' | 'worst'>('model')
const after = ref('')
const earlier = ref<Row[]>([])
const again = useDebounceFn(() => { earlier.value = []; after.value = ''; asked.value = text.value }, 250)
function anew() {
  earlier.value = []
  after.value = ''
}
const page = useAsked('compare', () => [asked.value, band.value, power.value, book.value, after.value] as const,
  (words, of, cls, by, from) => ask(api.GET('/api/v1/compare', { params: { query: { text: words, band: of, class: cls, rule_book: by, limit: 50, ...(from ? { after: from } : {}) } } })))
const books = useAsked('rule books', () => [] as const, () => ask(api.GET('/api/v1/rule-books')))
const all = computed<Row[]>(() => [...earlier.value, ...(page.answer.value?.rows ?? [])])
const unticked = ref<string[]>([])
const worst = (r: Row) => Math.min(...r.boxes.map((b) => (margins.value ? b.room_db : b.against_claim_db) ?? 1e9))
const rows = computed(() => {
  const shown = [...all.value]
  if (order.value === 'model') shown.sort((a, b) => `${a.maker} ${a.model} ${a.date_code}`.localeCompare(`${b.maker} ${b.model} ${b.date_code}`))
  if (order.value === 'worst') shown.sort((a, b) => worst(a) - worst(b))
  return shown
})
const ticked = computed(() => rows.value.filter((r) => !unticked.value.includes(r.id)))
const bands = computed(() => [...new Set(all.value.flatMap((r) => r.boxes.map((b) => b.band)))].filter((b) => !band.value || b === band.value))
const every = remember<string[]>('compare bands', [])
const known = computed(() => [...new Set([...every.value, ...all.value.flatMap((r) => r.boxes.map((b) => b.band))])])
const otherKit = (r: Row) => (margins.value ? r.other_analyzers : r.other_meters)
const of = (r: Row, b: string) => r.boxes.filter((x) => x.band === b)
const files = (name: string) => `/api/v1/compare/${name}?ids=${ticked.value.slice(0, 40).map((r) => r.id).join(',')}`
function tick(id: string, on: boolean) {
  unticked.value = on ? unticked.value.filter((x) => x !== id) : [...unticked.value, id]
}
function more() {
  earlier.value = all.value
  every.value = known.value
  after.value = page.answer.value?.next ?? ''
}
useHelp(() => ({ title: 'Compare', keys: [], words: ['claim', 'margin', 'coverage', 'edition'] }))
</script>

<template>
  <div class="page">
    <header>
      <h1>Compare</h1>
      <p class="soft">Units beside each other, each on its own claim. {{ margins ? 'Bars: room under the limit to the left, excess to the right, 20 dB each way.' : 'Ring: claimed. Dot: measured, with its interval; left of the ring is short of the claim.' }} Squares are figures of others.</p>
    </header>
    <form class="asks" @submit.prevent>
      <label>Which radios <ElInput v-model="text" name="compare-text" placeholder="maker, model, serial or date code" @input="again" /></label>
      <label>Band <select v-model="band" name="compare-band" @change="anew"><option value="">any</option><option v-for="b in known" :key="b" :value="b">{{ b }}</option></select></label>
      <label>Claims <select v-model="power" name="compare-class" @change="anew"><option value="">any power</option><option value="up-to-1-w">up to 1 W</option><option value="up-to-10-w">over 1 to 10 W</option><option value="over-10-w">over 10 W</option></select></label>
      <label>Rule book <select v-model="book" name="compare-book" @change="anew"><option value="">any</option><option v-for="b in books.answer.value ?? []" :key="b.id" :value="b.id">{{ b.title }}</option></select></label>
      <label>Order <select v-model="order" name="compare-order"><option value="model">model and date code</option><option value="worst">worst first</option><option value="latest">last changed</option></select></label>
      <span class="switch"><button type="button" class="option" name="compare-power" :aria-pressed="!margins" @click="margins = false">power</button><button type="button" class="option" name="compare-margins" :aria-pressed="margins" @click="margins = true">margins</button></span>
    </form>
    <p v-if="page.trouble.value" class="danger" role="alert">{{ page.trouble.value }}</p>
    <p v-if="page.answer.value && !rows.length" class="sheet">{{ text || band || power || book ? 'No radio here is so.' : 'No radio has been reviewed yet: what is measured stands here beside the others.' }}</p>
    <div v-if="rows.length" class="table" data-plot role="group" tabindex="0" aria-label="Radios against each other, a column each band">
      <table>
        <thead><tr><th></th><th v-for="b in bands" :key="b">{{ b }}</th></tr></thead>
        <tbody>
          <tr v-for="r in rows" :key="r.id" :data-row="r.id">
            <th scope="row">
              <label><input type="checkbox" :name="`with-${r.id}`" :checked="!unticked.includes(r.id)" title="in the pictures and the table" @change="tick(r.id, ($event.target as HTMLInputElement).checked)" /> <RouterLink :to="`/reviews/${r.id}/ruling`" :class="{ other: otherKit(r) }">{{ r.maker }} {{ r.model }}</RouterLink></label>
              <small class="soft">{{ [r.serial && `serial ${r.serial}`, r.date_code && `date code ${r.date_code}`, r.changes && 'changed'].filter(Boolean).join(', ') }}</small>
              <small v-if="otherKit(r)" class="soft other">with other kit: {{ otherKit(r) }}</small>
              <small v-for="l in r.answers" :key="l.id" class="soft" :title="l.text" data-answer>a reader{{ l.serial && `, serial ${l.serial}` }}{{ l.date_code && `, date code ${l.date_code}` }}: {{ l.text }}</small>
              <OutsideFigure :row="r" @kept="page.again()" />
            </th>
            <td v-for="b in bands" :key="b"><CompareCell v-for="x in of(r, b)" :key="x.name" :box="x" :margins="margins" :outside="r.outside.filter((f) => f.box === x.name)" /></td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="page.answer.value?.next"><ElButton name="more" @click="more">More radios</ElButton></p>
    <p v-if="ticked.length" class="links">To keep, of those ticked: <a :href="files(margins ? 'margins.svg' : 'power.svg')" target="_blank">SVG</a> <a :href="files(margins ? 'margins.png' : 'power.png')" target="_blank">PNG</a> <a :href="files('figures.csv')">CSV</a></p>
    <FrozenComparisons :ids="ticked.slice(0, 40).map((r) => r.id)" />
  </div>
</template>

<style scoped>
.page {
  padding: 28px 32px;
}
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: end;
  margin: 14px 0;
  font-size: 15px;
}
.asks .el-input {
  width: 260px;
}
.asks select {
  max-width: 170px;
}
.asks label {
  display: grid;
}
.switch {
  display: flex;
  gap: 6px;
}
.table {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 8px 18px 8px 0;
  border-bottom: 1px solid var(--hair);
  font-weight: 400;
}
thead th {
  font-weight: 600;
  position: sticky;
  top: 0;
  background: var(--ground, inherit);
}
tbody th {
  min-width: 230px;
  max-width: 280px;
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--ground);
}
tbody th label {
  font-weight: 600;
  display: block;
}
.other {
  font-style: italic;
}
small {
  display: block;
  font-size: 13px;
}
input[type='checkbox'] {
  accent-color: var(--ink);
}
.links a {
  margin-right: 12px;
}
</style>
