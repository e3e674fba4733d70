<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue'
import { cured, useBench } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import { db, fine, megahertz, ordinal, productName, watts, words } from '../../shared/figures'
import { api, ask, newKey, outbox, send, useAsked, wordsOf, type Emissions, type Keyed } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { type Standing } from '../../shared/StandingWords.vue'
import { isField } from '../../shared/typing'
import TypedLine from '../../shared/TypedLine.vue'
import BoxPicker from '../../reviews/BoxPicker.vue'
import Preflight from '../../reviews/Preflight.vue'
import { typedMegahertz, useChosen, usePath, useReview, useStaircase } from '../../reviews/review'
import StepWords from '../../reviews/sheet/StepWords.vue'
import { useSteps } from '../../reviews/sheet/steps'
import LookEntry from './LookEntry.vue'
import CoverageStrip from './CoverageStrip.vue'
import MarginLadder from './MarginLadder.vue'
import LevelsView from './LevelsView.vue'
import SecondLook from './SecondLook.vue'
import StatesView from './StatesView.vue'
import SweepList from './SweepList.vue'
import TakeAids from './TakeAids.vue'

// The plot and its library come when a sweep is there to be drawn.
const SpectrumPlot = defineAsyncComponent(() => import('./SpectrumPlot.vue'))

const book = useReview()
const review = computed(() => book.review!)
const bench = useBench()
const { at, cell } = useChosen('emissions', () => book.cells)
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'emissions'))
const pathId = usePath('emissions', () => paths.value)
const trouble = ref('')
// Nothing is preset: from the file, else dialled in as told, else not told.
const rbw = ref('')
const detector = ref('')
const hold = ref('')
const carrierIs = ref('')
const below = ref(false) // the file's levels are below its own carrier
const askUnit = ref<File | null>(null) // a file whose columns cannot be meant as they are headed
const dragging = ref(false)
type View = 'take' | 'study' | 'levels' | 'states'
const chosen = ref<View | null>(null) // where a person said so
const pointed = ref<number | null>(null) // the product a rung points at, in Hz
const state = ref('') // what the radio was doing, where it was not simply transmitting
const heard = ref(false) // in its own receiver
const looked = ref(0) // the carrier looked at; 0 for the worst of the box
const input = ref<HTMLInputElement>()

// With the run sheet the next step follows.
const steps = useSteps()
const step = computed(() => (steps.now.value?.kind === 'emissions' && steps.now.value.box === cell.value?.name ? steps.now.value : null))
function move(by: number) {
  const next = steps.beside(by)
  if (!next) return
  if (next.kind !== 'emissions') return void steps.open(next)
  steps.take(next)
  at.value = book.cells.findIndex((c) => c.name === next.box)
  pathId.value = next.path_id
}

const stairs = useStaircase(() => cell.value, () => pathId.value)
const safe = computed(() => stairs.answer.value?.safe ?? null) // null while nobody knows
const ready = computed(() => book.isChecked(stairs.answer.value?.wiring))
const told = computed(() => stairs.answer.value?.settings ?? null)

// The ruling on this box at this carrier, and on no other.
const ask1 = useAsked<[string, Keyed], Emissions>(
  'ruling',
  () => (cell.value ? ([book.id, { ...book.keyed(cell.value), frequency_hz: looked.value }] as const) : null),
  (id, query) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions/ruling', { params: { path: { id }, query } })),
)
const found = ask1.answer
const view = computed<View>(() => chosen.value ?? (found.value?.sweeps.length === 0 ? 'take' : 'study'))
const taking = computed(() => view.value === 'take')
const views: [View, string, string][] = [['take', 'Take', 't'], ['study', 'Study', 'y'], ['levels', 'By level', 'v'], ['states', 'By state', 'b']]
function openBox(name: string) {
  at.value = book.cells.findIndex((c) => c.name === name)
  void nextTick(() => (chosen.value = 'study'))
}
const onTheWay = computed(() => outbox.facts.find((f) => f.what === 'emissions' && f.review === book.id))
const progress = computed(() => {
  const f = onTheWay.value
  if (!f) return ''
  const size = f.file && f.file.size > 1e6 ? `, ${(f.file.size / 1e6).toFixed(0)} MB` : ''
  return f.state === 'waiting' ? `${f.label}${size} waits to be sent again` : (f.sent ?? 0) < 1 ? `sending ${f.label}${size}: ${Math.round(100 * (f.sent ?? 0))} %` : `sent; reading ${f.label}${size}`
})
const ruling = computed(() => found.value?.ruling ?? null)
const outside = computed(() => (cell.value ? book.outside(cell.value) : ''))
// The strip spans what a full examination asks for, whatever was swept.
const spans = computed(() => {
  const sweeps = found.value?.sweeps ?? []
  const c = ruling.value?.coverage
  return { from: Math.min(...sweeps.map((s) => s.start_hz), c?.search_from_hz ?? Infinity), to: Math.max(...sweeps.map((s) => s.stop_hz), c?.search_to_hz ?? 0) }
})
watch(at, () => {
  chosen.value = null
  looked.value = 0
  trouble.value = ''
})

// 0 where it is not told, NaN where what was typed is no number.
const khz = computed(() => Number(rbw.value.trim().replace(',', '.')))

/** What is not told costs something: said before the file is dropped. */
const costs = computed(() => {
  const untold = told.value?.untold
  if (!untold) return []
  return [khz.value === 0 && untold.rbw, !detector.value && untold.detector, !carrierIs.value && untold.modulated].filter((c) => c !== false)
})

// One key takes the card, another says the wiring was gone through, where nothing is being typed.
useEventListener('keydown', (e: KeyboardEvent) => {
  if (isField(e.target) || e.ctrlKey || e.metaKey || e.altKey) return
  const turn = views.find(([, , key]) => key === e.key)
  const act = turn ? () => (chosen.value = turn[0]) : e.key === '+' ? second : !taking.value ? null : { l: () => lookEntry.value?.focus(), d: asTold, c: confirm, ArrowDown: step.value && (() => move(1)), ArrowUp: step.value && (() => move(-1)) }[e.key]
  if (!act) return
  e.preventDefault()
  act()
})

/** A second look at the same step with about 10 dB more: the path that has them, or one made of this and a pad. */
async function second() {
  const more = stairs.answer.value?.more
  const kept = bench.bench?.paths.find((p) => p.id === pathId.value)
  trouble.value = ''
  if (!more || !kept) {
    trouble.value = stairs.answer.value ? 'No pad of 6 to 20 dB that would be safe in front of the analyzer is on the bench: add one, or take another path.' : ''
    return
  }
  const parts = cured(kept.parts, more)
  const same = paths.value.find((p) => p.parts.length === parts.length && p.parts.every((x, i) => x.kit_id === parts[i]!.kit_id && x.setting === parts[i]!.setting))
  try {
    pathId.value = same?.id ?? (await bench.writePath({ ...kept, id: newKey(), version: 0 }, { name: `${kept.name}, with ${more.detail}`.slice(0, 200), parts })).id
    chosen.value = 'take'
  } catch (e) {
    trouble.value = wordsOf(e)
  }
}

function confirm() {
  const now = stairs.answer.value
  if (!now?.safe || ready.value) return
  book.check(now.wiring)
  void nextTick(() => input.value?.focus())
}

// What was told is of one sweep: the next is told anew.
function forgetTold() {
  rbw.value = detector.value = hold.value = carrierIs.value = ''
  below.value = false
  state.value = ''
  heard.value = false
}
watch([at, pathId], forgetTold)

/** Takes the settings of the card, as they were dialled in. */
function asTold() {
  if (!told.value) return
  rbw.value = String(told.value.rbw_hz / 1e3)
  detector.value = told.value.detector
  hold.value = told.value.hold
}

async function take(file: File | null | undefined, unit = '') {
  dragging.value = false
  const wiring = stairs.answer.value?.wiring
  if (!file || !cell.value || !safe.value || !ready.value || !wiring || onTheWay.value) return
  trouble.value = ''
  askUnit.value = null
  if (input.value) input.value.value = '' // or the same file could not be chosen again
  if (file.size > 64 * 2 ** 20) trouble.value = `${file.name} is over 64 MiB, the most that is read.`
  else if (!(khz.value >= 0)) trouble.value = `Bandwidth "${rbw.value}": give a number of kHz, such as 100, or nothing where it is not told.`
  if (trouble.value) return
  const { band, level, mode, frequency_hz } = book.keyed(cell.value)
  const draft = { name: file.name.replace(/\.[^.]*$/, ''), rbw_hz: khz.value * 1e3, detector: detector.value, hold: hold.value, modulated: carrierIs.value, unit, normalised: below.value, state: state.value }
  const query = { band, level, mode, frequency_hz: String(frequency_hz), path_id: pathId.value, wiring, file: file.name, draft: JSON.stringify(draft) }
  const id = book.id
  const got = await send({ what: 'emissions', review: id, label: file.name, file, path: (key) => `/api/v1/reviews/${id}/measure/emissions?${new URLSearchParams({ ...query, key })}` })
  if (got.ok) {
    chosen.value = state.value ? 'states' : null
    forgetTold()
    return
  }
  trouble.value = `${file.name}: ${got.refusal.stale ? got.refusal.message : got.refusal.words}`
  if (got.refusal.fields.some((f) => f.field === 'unit')) askUnit.value = file
}

// A look is taken as a sweep is; its text is kept as its file.
const lookEntry = ref<InstanceType<typeof LookEntry>>()
const heldFor = ref('')
const preAmp = ref('')
const screenAdds = ref('')
const figure = (text: string) => (text.trim() === '' ? undefined : Number(text.trim().replace(',', '.').replace('\u2212', '-')))
const readOff = ref({ tolerance_hz: 0, reading_db: 0 }) // how well it was read off a picture
const lookQuery = computed(() => {
  const { band, level, mode, frequency_hz } = book.keyed(cell.value!)
  const n = (found.value?.sweeps.filter((s) => s.look).length ?? 0) + 1
  const draft = { name: `look ${n}`, look: true, rbw_hz: khz.value >= 0 ? khz.value * 1e3 : 0, detector: detector.value, hold: hold.value, modulated: carrierIs.value, held_s: figure(heldFor.value), offset_db: figure(screenAdds.value), pre_amplifier: preAmp.value, state: state.value, heard: heard.value, ...readOff.value }
  return { band, level, mode, frequency_hz: String(frequency_hz), path_id: pathId.value, draft: JSON.stringify(draft), file: `look ${n}.txt` }
})
async function takeLook(text: string, picture: File | null) {
  const wiring = stairs.answer.value?.wiring
  if (!wiring || !safe.value || onTheWay.value) return
  if (!ready.value) {
    trouble.value = 'Go through “before keying” first; what you typed stays.'
    return
  }
  trouble.value = ''
  const id = book.id
  const query = { ...lookQuery.value, wiring }
  const got = await send<{ id: string }>({ what: 'emissions', review: id, label: query.file, file: new Blob([text], { type: 'text/plain' }), path: (key) => `/api/v1/reviews/${id}/measure/emissions?${new URLSearchParams({ ...query, key })}` })
  if (got.ok) {
    if (picture) {
      const about = got.data.id
      void send({ what: 'photo', review: id, label: picture.name, path: (key) => `/api/v1/reviews/${id}/photos?${new URLSearchParams({ key, about, file: picture.name })}`, file: picture })
    }
    lookEntry.value?.clear()
    chosen.value = state.value ? 'states' : null
    state.value = ''
    heard.value = false
  } else trouble.value = got.refusal.stale ? got.refusal.message : got.refusal.words
}

function retune(typed: string | number) {
  const hz = typedMegahertz(String(typed))
  if (hz == null) trouble.value = 'Give the carrier in MHz, such as 145.500.'
  else if (cell.value) {
    book.measureAt(cell.value, hz)
    trouble.value = ''
  }
}

async function say(target_id: string, standing: Standing, reason: string) {
  const got = await send({ what: 'standing', review: book.id, label: `${standing}: ${reason}`, path: `/api/v1/reviews/${book.id}/standings`, json: (id) => ({ id, target_id, standing, reason }) })
  if (!got.ok) trouble.value = got.refusal.words
}
</script>

<template>
  <p v-if="book.cells.length === 0" class="soft">Nothing to sweep yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink> first.</p>
  <div v-else-if="cell" class="stage">
    <BoxPicker v-model="at" :cells="book.cells">
      <span class="more" role="group" aria-label="View"><button v-for="[name, says, key] in views" :key="name" type="button" :name="`view-${name}`" :aria-pressed="view === name" @click="chosen = name">{{ says }} <kbd>{{ key }}</kbd></button></span>
      <span v-if="step" class="soft"><StepWords :steps="steps" @move="move" /></span>
    </BoxPicker>
    <p v-if="trouble || ask1.trouble.value || bench.trouble" class="danger trouble" role="alert">
      {{ trouble || ask1.trouble.value || bench.trouble }}
      <template v-if="askUnit">Read it in <button v-for="u in ['Hz', 'kHz', 'MHz', 'GHz']" :key="u" type="button" class="link" @click="take(askUnit, u)">{{ u }}</button></template>
    </p>

    <section v-if="taking" class="take">
      <div>
        <h2>Take a sweep of {{ cell.name }}, {{ megahertz(book.frequencyOf(cell)) }}</h2>
        <div class="fields">
          <label>Path<ElSelect v-model="pathId" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect></label>
          <label>Carrier, MHz<TypedLine :value="(book.frequencyOf(cell) / 1e6).toString()" name="carrier" @commit="retune" /></label>
          <label>Bandwidth, kHz<ElInput v-model="rbw" name="rbw" inputmode="decimal" placeholder="not told" /></label>
          <label>Detector<ElSelect v-model="detector" aria-label="Detector" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['peak', 'rms', 'average', 'sample']" :key="d" :value="d" :label="d" /></ElSelect></label>
          <label>Hold<ElSelect v-model="hold" aria-label="Hold" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['single', 'max', 'average']" :key="d" :value="d" :label="d" /></ElSelect></label>
          <label>Carrier was<ElSelect v-model="carrierIs" aria-label="Bare or modulated" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="bare" label="bare" /><ElOption value="modulated" label="modulated" /></ElSelect></label>
          <label>File in<ElSelect v-model="below" aria-label="Levels of the file"><ElOption :value="false" label="dBm" /><ElOption :value="true" label="dBc, carrier at 0" /></ElSelect></label>
        </div>
        <p v-if="outside" class="doubt" data-outside>{{ outside }}</p>
        <TakeAids :left="ruling?.coverage.left as [number, number][] ?? null" :settings="told" @held="heldFor = String($event)" />
        <p class="told">
          <ElButton v-if="told" size="small" name="as-told" @click="asTold">Dialled in as told: {{ megahertz(told.rbw_hz) }}, {{ told.detector }}, {{ told.hold }} hold <kbd>d</kbd></ElButton>
          <span v-for="c in costs" :key="c" class="soft">{{ c }}</span>
        </p>
        <LookEntry v-if="pathId" ref="lookEntry" :key="pathId" :review="review.id" :query="lookQuery" :carrier="book.frequencyOf(cell)" :busy="Boolean(onTheWay)" @take="takeLook" @read="(hz, u) => (readOff = { tolerance_hz: hz, reading_db: u })" />
        <div v-if="pathId" class="beside">
          <label>Held for, s<ElInput v-model="heldFor" name="held" inputmode="decimal" placeholder="not told" /></label>
          <label>Pre-amplifier<ElSelect v-model="preAmp" aria-label="Pre-amplifier" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="off" label="off" /><ElOption value="on" label="on" /></ElSelect></label>
          <label>The screen adds, dB<ElInput v-model="screenAdds" name="screen-adds" inputmode="decimal" placeholder="as the path says" /></label>
          <span class="soft">of a look read off the screen; <kbd>l</kbd> goes to its line</span>
          <label class="state">State<input v-model="state" name="state" list="states" placeholder="transmitting, as reviewed" autocomplete="off" /></label>
          <datalist id="states"><option v-for="s in ['off', 'standby', 'receive', 'tuner in', 'tuner out', 'into the antenna', 'other supply', 'before repair', 'after repair']" :key="s" :value="s" /></datalist>
          <label v-if="state" class="tick"><input v-model="heard" type="checkbox" name="heard" /> heard in its own receiver</label>
          <span class="soft">{{ state ? 'stands on the board of states and rules on nothing' : 'another one stands on the board of states: what goes away with it comes from it' }}</span>
        </div>
        <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :stairs="stairs.answer.value" :trouble="stairs.trouble.value" @taken="pathId = $event" />
        <p v-else class="soft">No path into an analyzer is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
        <Preflight v-if="pathId" :safe="safe" :ready="safe === true && ready" @confirm="confirm" />
      </div>
      <label v-if="safe && ready" class="drop" :class="{ dragging }" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="take($event.dataTransfer?.files[0])">
        <input ref="input" type="file" name="sweep" accept=".csv,.txt,.tsv,text/csv,text/plain" @change="take(($event.target as HTMLInputElement).files?.[0])" />
        <b>{{ onTheWay ? progress : 'Drop the saved sweep here, or choose the file' }}</b>
        <span class="soft">CSV of any common shape: frequency and level, comma, semicolon or tab, Hz to GHz, up to 64 MiB</span>
      </label>
    </section>

    <LevelsView v-if="view === 'levels'" :review="book.id" :chosen="cell.name" @choose="openBox" />
    <StatesView v-if="view === 'states'" :review="book.id" @say="say" />

    <template v-if="view === 'study' && found">
      <div class="worst">
        <RulingShape v-if="ruling" :verdict="found.said" :size="58" />
        <div v-if="ruling?.worst" class="margin" :class="ruling.verdict">
          {{ ruling.worst.margin_db == null ? 'not seen' : db(ruling.worst.margin_db) }}
        </div>
        <b v-if="found.relative_only" class="relative" data-relative>relative only</b>
        <div v-if="ruling" class="says">
          <template v-if="ruling.worst">
            <b>{{ productName(ruling.worst) }}</b>, {{ ruling.worst.decided_by ?? 'no' }} term<br />
          </template>
          <b v-else>{{ ruling.detail ?? 'nothing to rule on' }}</b>
          <span class="soft">
            {{ ruling.verdict === 'pass' ? 'passes' : 'examined' }} as far as {{ ruling.coverage.passes_to_hz == null ? 'nowhere above the carrier' : megahertz(ruling.coverage.passes_to_hz)
            }}{{ ruling.coverage.highest_harmonic == null ? '' : ` (${ordinal(ruling.coverage.highest_harmonic)} harmonic)` }}; {{ found.book_title
            }}{{ found.book_recalled ? ', recalled from memory' : found.book_house ? ', house practice' : '' }}; ±{{ fine(found.budget?.expanded_uncertainty_db ?? 0) }} (k = 2)<template v-if="found.mean_w">; carrier {{ watts(found.mean_w) }} by the meter at {{ megahertz(found.mean_at_hz) }}</template>
          </span>
        </div>
        <p v-else class="soft">{{ found.why }}</p>
      </div>
      <p v-if="found.void" class="danger trouble">Void: {{ found.void }}</p>
      <p v-if="found.outside" class="doubt" data-outside>{{ megahertz(found.frequency_hz) }} lies outside the band claimed: kept at its own frequency, it rules on no claim of the band.</p>
      <p v-if="found.others.length" class="others">
        At {{ megahertz(found.frequency_hz) }}. Also swept:
        <button v-for="o in found.others" :key="o.frequency_hz" type="button" class="link" @click="looked = o.frequency_hz"><RulingShape :verdict="o.verdict" :size="16" /> {{ megahertz(o.frequency_hz) }}, {{ words(o.why) }}</button>
      </p>
      <template v-if="ruling && found.sweeps.length">
        <SpectrumPlot :emissions="found" :pointed="pointed" />
        <CoverageStrip :coverage="ruling.coverage" :carrier="found.frequency_hz" :from="spans.from" :to="spans.to" />
        <div class="lower">
          <MarginLadder :ruling="ruling" :budget="found.budget" :rule="review.rules.decision_rule" :relative="found.relative_only" @point="pointed = $event" />
          <aside>
            <p><ElButton size="small" name="second" :disabled="!stairs.answer.value?.more" @click="second">Look again with 10 dB more <kbd>+</kbd></ElButton></p>
            <SecondLook v-if="found.seconds?.length" :seconds="found.seconds" :standings="Object.fromEntries(found.sweeps.map((s) => [s.id, s.standing]))" @suspect="(id, reason) => say(id, 'suspect', reason)" />
            <ul v-if="ruling.findings.length" class="findings">
              <li v-for="(f, i) in ruling.findings" :key="i" :data-finding="f.code">{{ words(f.detail) }}<template v-if="f.advice">: {{ f.advice }}</template></li>
            </ul>
            <SweepList :sweeps="found.sweeps" @say="say" />
          </aside>
        </div>
      </template>
    </template>
  </div>
</template>

<style scoped>
.more {
  margin-left: auto;
}
.more button {
  all: unset;
  cursor: pointer;
  padding: 4px 10px;
  font-size: 15px;
  color: var(--soft);
}
.more button[aria-pressed='true'] {
  background: var(--press);
  color: var(--ink);
}
.more button:focus-visible {
  outline: 2px solid var(--ink);
}
.relative {
  font-size: 22px;
  border: 2px dashed var(--soft);
  padding: 2px 10px;
  white-space: nowrap;
}
.state input {
  display: block;
  width: 100%;
  font: inherit;
  font-size: 16px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--hair);
}
.state {
  grid-column: span 2;
}
.beside > span:last-child {
  grid-column: span 2;
}
.tick {
  align-self: center;
}
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
.take {
  margin-top: 14px;
}
.fields {
  display: grid;
  grid-template-columns: 1.6fr 1fr 0.9fr 1fr 1fr 1fr 1fr;
  gap: 22px;
  margin: 10px 0 16px;
}
.fields label {
  font-size: 14px;
  color: var(--soft);
}
.beside {
  display: grid;
  grid-template-columns: 170px 190px 200px 1fr;
  gap: 22px;
  align-items: end;
  margin: 8px 0;
  font-size: 14px;
}
.told {
  display: grid;
  gap: 4px;
  justify-items: start;
  margin: 0 0 14px;
}
.told .soft {
  font-size: 14px;
}
.doubt {
  border-left: 4px solid var(--amber);
  padding: 2px 12px;
  font-size: 17px;
}
.worst {
  display: flex;
  align-items: center;
  gap: 20px;
  margin: 10px 0 2px;
}
.margin {
  font-size: 64px;
  line-height: 1.1;
  font-weight: 600;
  letter-spacing: -0.02em;
  white-space: nowrap;
}
.margin.fail {
  color: var(--rust);
}
.says {
  font-size: 18px;
}
.says .soft {
  font-size: 15px;
}
.others button {
  margin-right: 14px;
  font-size: inherit;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 34px;
  margin-top: 10px;
}
.findings {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
.findings li {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
  margin-bottom: 6px;
  font-size: 15px;
}
</style>
