<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { decimal } from '../bench/bench'
import { dbm, megahertz, watts } from '../shared/figures'
import { remember } from '../shared/remember'
import { api, ask, useAsked, type Mode, type Schemas } from '../shared/server'
import BookPlot from './BookPlot.vue'

const asked = useAsked('rule books', () => [], () => ask(api.GET('/api/v1/rule-books')))
const books = computed(() => asked.answer.value ?? [])
const trouble = asked.trouble

const chosen = remember('rule book', 'us-amateur')
const open = computed(() => books.value.filter((b) => b.id === chosen.value))
// A carrier the book is drawn for: its own, where nobody typed one.
const mhz = ref('146.52')
const power = ref('5')
const mode = ref<Mode>('FM')
const state = ref<'operating' | 'standby'>('operating')
const usual: Record<string, [string, string]> = {
  'us-gmrs': ['462.6', '5'], 'us-frs': ['462.5625', '2'], 'us-murs': ['151.88', '2'], 'us-cb': ['27.185', '4'], 'us-land-mobile-25': ['155', '25'], 'us-land-mobile-12.5': ['155', '5'], 'us-marine-vhf': ['156.625', '25'], 'eu-land-mobile': ['155', '5'], 'house-vhf-everywhere': ['446', '5'],
}
watch(chosen, (id) => { [mhz.value, power.value] = usual[id] ?? ['146.52', '5'] }, { immediate: true })

type Condition = Schemas['RulebookCondition']
function when(c: Condition): string {
  const parts: string[] = []
  if (c.carrier_from_hz != null && c.carrier_to_hz != null) parts.push(`carrier ${megahertz(c.carrier_from_hz)} to ${megahertz(c.carrier_to_hz)}`)
  else if (c.carrier_to_hz != null) parts.push(`carrier up to ${megahertz(Math.round(c.carrier_to_hz))}`)
  else if (c.carrier_from_hz != null) parts.push(`carrier from ${megahertz(c.carrier_from_hz)}`)
  if (c.mean_over_w != null) parts.push(`over ${watts(c.mean_over_w)}`)
  if (c.mean_to_w != null) parts.push(`up to ${watts(c.mean_to_w)}`)
  if (c.mean_under_w != null) parts.push(`under ${watts(c.mean_under_w)}`)
  if (c.modes?.length) parts.push(c.modes.join(' or '))
  if (c.services?.length) parts.push(c.services.join(' or '))
  if (c.classes?.length) parts.push(c.classes.join(' or '))
  if (c.state) parts.push(c.state)
  if (c.installed_before) parts.push(`installed before ${c.installed_before}`)
  if (c.built_before) parts.push(`built before ${c.built_before}`)
  if (c.marketed_before) parts.push(`marketed before ${c.marketed_before}`)
  return parts.join(', ') || 'any carrier'
}
function term(t: Schemas['RulebookTerm']): string {
  if (t.relative_db != null) return `at least ${t.relative_db} dB below the carrier`
  if (t.formula_db != null) return `at least ${t.formula_db} + 10 log10 P dB below the carrier`
  return `at most ${dbm(t.absolute_dbm)}`
}
</script>

<template>
  <div class="page">
    <h1>Rule books</h1>
    <p class="soft">Limits are data. Each comes with its source, and with what became of it: recalled, or checked against the text.</p>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <nav class="books" aria-label="Rule books">
      <button v-for="b in books" :key="b.id" type="button" :aria-pressed="b.id === chosen" @click="chosen = b.id">{{ b.title }}</button>
    </nav>
    <article v-for="b in open" :key="b.id" class="sheet">
      <h2>{{ b.title }} <span class="mono soft id">{{ b.id }}</span></h2>
      <p>{{ b.source }}</p>
      <p v-if="b.kind === 'house'" class="note">House practice, not law. A ruling by it says so.</p>
      <p v-else-if="b.recalled && !b.checked" class="note">Recalled from memory; nobody has recorded checking it against the text. Every edition by it says so.</p>
      <div class="for">
        <label>Carrier, MHz<input v-model="mhz" name="book-mhz" inputmode="decimal" /></label>
        <label>Mean power, W<input v-model="power" name="book-watts" inputmode="decimal" /></label>
        <label>Mode<select v-model="mode"><option v-for="m in ['FM', 'AM', 'SSB', 'CW', 'DIGITAL']" :key="m">{{ m }}</option></select></label>
        <label>State<select v-model="state"><option>operating</option><option>standby</option></select></label>
      </div>
      <BookPlot :book="b.id" :mhz="decimal(mhz)" :watts="decimal(power)" :mode="mode" :state="state" service="" />
      <table>
        <thead><tr><th>When</th><th>Limit</th><th>By</th></tr></thead>
        <tbody>
          <tr v-for="(c, i) in b.clauses" :key="i">
            <td>{{ when(c.when) }}</td>
            <td>
              <span v-if="c.exempt">exempt</span>
              <template v-for="(s, k) in c.segments ?? []" :key="k">
                {{ s.terms.map(term).join(s.combine === 'lenient' ? ' or ' : ' and ') }}<template v-if="s.floor_dbm != null">, but need not be under {{ dbm(s.floor_dbm) }}</template>
              </template>
            </td>
            <td class="soft">{{ c.citation }}</td>
          </tr>
          <tr v-if="b.otherwise"><td>otherwise</td><td>{{ b.otherwise }}</td><td class="soft">{{ b.otherwise_citation }}</td></tr>
        </tbody>
      </table>
      <table v-if="b.power_limits?.length">
        <thead><tr><th>When</th><th>Power at most</th><th>By</th></tr></thead>
        <tbody>
          <tr v-for="(p, i) in b.power_limits" :key="i"><td>{{ when(p.when) }}</td><td>{{ watts(p.max_w) }} {{ p.power === 'pep' ? 'PEP' : p.power }}{{ p.as === 'erp' ? ', ERP: conducted watts alone do not tell' : '' }}</td><td class="soft">{{ p.citation }}</td></tr>
        </tbody>
      </table>
      <p class="soft">{{ b.note }}</p>
    </article>
  </div>
</template>

<style scoped>
.page {
  max-width: 1080px;
  padding: 28px 36px 60px;
}
article {
  margin-top: 18px;
}
.books {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-top: 12px;
}
.books button {
  all: unset;
  cursor: pointer;
  padding: 5px 12px;
  color: var(--soft);
}
.books button[aria-pressed='true'] {
  background: var(--press);
  color: var(--ink);
  font-weight: 600;
}
.books button:focus-visible {
  outline: 2px solid var(--ink);
}
.for {
  display: grid;
  grid-template-columns: repeat(4, 150px);
  gap: 24px;
  margin: 10px 0;
}
.for label {
  font-size: 14px;
  color: var(--soft);
}
.for input,
.for select {
  display: block;
  width: 100%;
  font: inherit;
  font-size: 17px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  padding: 3px 0;
}
.id {
  font-size: 14px;
}
.note {
  border-left: 3px solid var(--amber);
  padding: 2px 12px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 7px 18px 7px 0;
  border-bottom: 1px solid var(--hair);
}
th {
  font-weight: 500;
  color: var(--soft);
}
</style>
