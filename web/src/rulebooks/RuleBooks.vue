<script setup lang="ts">
import { useHelp } from '../shared/help'
import { date } from '../shared/figures'
import { computed, ref, watch } from 'vue'
import { decimal } from '../shared/numbers'
import { remember } from '../shared/remember'
import { api, ask, send, useAsked, type Mode, type Schemas } from '../shared/server'
import BookClauses from './BookClauses.vue'
import BookPlot from './BookPlot.vue'
import BookWords from './BookWords.vue'

type Book = Schemas['BookView']

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
  'us-amateur': ['146.52', '5'], 'us-gmrs': ['462.6', '5'], 'us-frs': ['462.5625', '2'], 'us-murs': ['151.88', '2'], 'us-cb': ['27.185', '4'], 'us-land-mobile-25': ['155', '25'], 'us-land-mobile-12.5': ['155', '5'], 'us-marine-vhf': ['156.625', '25'], 'eu-land-mobile': ['155', '5'], 'house-vhf-everywhere': ['446', '5'],
}
watch(open, ([b], was) => {
  if (!b || b.id === was?.[0]?.id) return
  const service = b.carriers?.[0]
  ;[mhz.value, power.value] = usual[b.id] ?? [service ? String((service.from_hz + service.to_hz) / 2e6) : '146.52', '5']
}, { immediate: true })

/** Sends something said of a book; what is wrong with it stays beside what was typed. */
const said = ref('')
async function say(path: string, label: string, json: (id: string) => unknown): Promise<boolean> {
  const got = await send({ what: 'rule-book', review: '', label, path, json })
  said.value = got.ok ? '' : got.refusal.words
  return got.ok
}

// A copy, a change or a file that was brought in, while it is written.
const writing = remember('rule book written', { of: '', begin: '', over: '' }) // of nothing where none is
const draft = ref<Record<string, unknown> | null>(null)
const asText = (b: Book) => JSON.stringify({ ...b, own: undefined, wording: undefined, checked: undefined, $schema: undefined }, null, 2)
const begin = (of: string, text: string, over = '') => (writing.value = { of: `${of} ${Date.now()}`, begin: text, over })
const leave = () => (writing.value = { of: '', begin: '', over: '' })
function copyOf(b: Book) {
  const base = `own-${b.id}`.slice(0, 56)
  let id = base
  for (let n = 2; books.value.some((o) => o.id === id); n++) id = `${base}-${n}`
  begin(id, asText({ ...b, id, title: `${b.title}, own wording`, kind: 'house' }))
}
const empty = { id: '', title: '', kind: 'house', source: '', recalled: false, clauses: [{ when: {}, citation: '', segments: [{ terms: [{ relative_db: 40 }] }] }] }
async function bringIn(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  if (file.size > 1 << 20) said.value = `${file.name} is over 1 MB: that is no rule book.`
  else begin(file.name, await file.text())
}
function kept(id: string) {
  leave()
  chosen.value = id
}

const checking = ref(false)
const by = remember('checked by', '')
const edition = ref('')
const on = ref('')
watch(chosen, () => (checking.value = false))
async function check(b: Book) {
  if (await say(`/api/v1/rule-books/${b.id}/checked`, `${b.title} checked`, (id) => ({ id, by: by.value, edition: edition.value, on: on.value }))) checking.value = false
}
useHelp(() => ({ title: 'Rule books', keys: [], words: ['rule book', 'no limit', 'decision rule', 'dBc', 'margin'] }))
</script>

<template>
  <div class="page">
    <h1>Rule books</h1>
    <p class="soft">Limits are data. Each comes with its source, and with what became of it: recalled, or checked against the text.</p>
    <p v-if="trouble || said" class="danger" role="alert">{{ trouble || said }}</p>
    <nav class="books" aria-label="Rule books">
      <button v-for="b in books" :key="b.id" type="button" class="option" :aria-pressed="b.id === chosen" @click="chosen = b.id">{{ b.title }}<span v-if="b.own" class="own">own</span></button>
      <button type="button" class="option bring" name="new-book" @click="begin('new', JSON.stringify(empty, null, 2))">Write one</button>
      <label class="bring">Bring in a file<input type="file" name="bring-book" accept=".json,application/json" @change="bringIn" /></label>
    </nav>
    <article v-for="b in open" :key="b.id" class="sheet">
      <h2 v-if="writing.of">{{ draft?.['title'] || 'A rule book' }} <span class="soft id">being written</span></h2>
      <template v-else>
        <h2>{{ b.title }} <span class="mono soft id">{{ b.id }}</span></h2>
        <p>{{ b.source }}{{ b.edition ? `, ${b.edition}` : '' }}</p>
        <p v-if="b.kind === 'house'" class="note">House practice, not law. A ruling by it says so.</p>
        <p v-if="b.checked" class="checked" data-checked>Checked against the text, {{ b.checked.edition }}, on {{ date(b.checked.on) }}, by {{ b.checked.by }}.</p>
        <p v-else-if="b.recalled" class="note">Recalled from memory; nobody has recorded checking it against the text. Every edition by it says so.</p>
        <p class="acts">
          <button type="button" class="link" name="copy-book" @click="copyOf(b)">copy and change</button>
          <button v-if="b.own" type="button" class="link" name="change-book" @click="begin(b.id, asText(b), b.wording)">change its wording</button>
          <a :href="`/api/v1/rule-books/${b.id}`" download>save as a file</a>
          <button type="button" class="link" name="check-book" @click="checking = !checking">checked against the text</button>
          <button v-if="b.own" type="button" class="link" name="withdraw-book" @click="say(`/api/v1/rule-books/${b.id}/withdrawn`, `${b.title} withdrawn`, (id) => ({ id })).then((ok) => ok && (chosen = 'us-amateur'))">take it off the list</button>
        </p>
        <form v-if="checking" class="for check" @submit.prevent="check(b)">
          <label>Who held it against the text<input v-model="by" name="checked-by" /></label>
          <label>Its edition<input v-model="edition" name="checked-edition" placeholder="e-CFR of 2026-11-01" /></label>
          <label>On<input v-model="on" name="checked-on" type="date" /></label>
          <ElButton native-type="submit" name="checked">Record it</ElButton>
        </form>
      </template>
      <div class="for">
        <label>Carrier, MHz<input v-model="mhz" name="book-mhz" inputmode="decimal" /></label>
        <label>Mean power, W<input v-model="power" name="book-watts" inputmode="decimal" /></label>
        <label>Mode<select v-model="mode"><option v-for="m in ['FM', 'AM', 'SSB', 'CW', 'DIGITAL']" :key="m">{{ m }}</option></select></label>
        <label>State<select v-model="state"><option>operating</option><option>standby</option></select></label>
      </div>
      <BookPlot :book="(writing.of && draft) || b" :mhz="decimal(mhz)" :watts="decimal(power)" :mode="mode" :state="state" service="" />
      <BookWords v-if="writing.of" :key="writing.of" :of="writing.of" :begin="writing.begin" :over="writing.over" @draft="draft = $event" @kept="kept" @leave="leave" />
      <BookClauses v-else :book="b" />
      <p v-if="!writing.of" class="soft">{{ b.note }}</p>
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
.books .option {
  padding: 5px 12px;
}
.books [aria-pressed='true'] {
  font-weight: 600;
}
.books button.bring {
  color: var(--ink);
  text-decoration: underline;
  text-underline-offset: 4px;
}
.for {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 150px));
  gap: 12px 24px;
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
.checked {
  border-left: 3px solid var(--soft);
  padding: 2px 12px;
}
.own {
  margin-left: 6px;
  font-size: 13px;
  color: var(--soft);
}
.bring {
  padding: 5px 12px;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 4px;
}
.bring input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.bring:focus-within {
  outline: 2px solid var(--ink);
}
.acts > * {
  font-size: 15px;
  margin-right: 20px;
}
.check {
  align-items: end;
  grid-template-columns: 260px 260px 150px 150px;
}
</style>
