<script setup lang="ts">
// Taking a sweep or a look: what to dial in, what is still to look at, how long to hold, the
// path with its dangers, and what is told beside the file.
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useBench, type Stairs } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import Preflight from '../../reviews/Preflight.vue'
import { typedMegahertz, useReview } from '../../reviews/review'
import { megahertz } from '../../shared/figures'
import { useHere } from '../../shared/here'
import { useLine, useTold } from '../../shared/lines'
import { newKey, send, underway, type Cell } from '../../shared/server'
import TypedLine from '../../shared/TypedLine.vue'
import { isField } from '../../shared/typing'
import InstrumentSweep from './InstrumentSweep.vue'
import LookEntry from './LookEntry.vue'
import TakeAids from './TakeAids.vue'

const props = defineProps<{ cell: Cell; pathId: string; stairs: Stairs | null; stairsTrouble: string; left: [number, number][] | null; looks: number }>()
const emit = defineEmits<{ path: [id: string]; taken: [toBoard: boolean] }>()
const book = useReview()
const bench = useBench()
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'emissions'))
const trouble = ref('')
// What is told beside a look or a file stays with its box until that is taken. Nothing is
// preset: from the file, else dialled in as told, else not told.
const box = () => props.cell.name
const untold = { through: '', rbw: '', detector: '', hold: '', carrier: '', below: false, preAmp: '', held: '', state: '', heard: false, tolerance: '', reading: '' }
const beside = useTold(book.id, 'emissions', box, untold)
type Told = typeof untold
function field<K extends keyof Told>(name: K) {
  return computed<Told[K]>({ get: () => beside.value[name], set: (v) => (beside.value = { ...beside.value, [name]: v }) })
}
/** Of the instrument at the end of this path: through another one it is told anew. */
const ofPath = ['rbw', 'detector', 'hold', 'carrier', 'below', 'preAmp'] as const
function dialled<K extends (typeof ofPath)[number]>(name: K) {
  return computed<Told[K]>({
    get: () => (beside.value.through === props.pathId ? beside.value : untold)[name],
    set: (v) => {
      const others = beside.value.through === props.pathId ? {} : Object.fromEntries(ofPath.map((n) => [n, untold[n]]))
      beside.value = { ...beside.value, ...others, through: props.pathId, [name]: v }
    },
  })
}
const rbw = dialled('rbw')
const detector = dialled('detector')
const hold = dialled('hold')
const carrierIs = dialled('carrier')
const below = dialled('below') // the file's levels are below its own carrier
const askUnit = ref<File | null>(null) // a file whose columns cannot be meant as they are headed
const dragging = ref(false)
const state = field('state') // what the radio was doing, where it was not simply transmitting
const heard = field('heard') // in its own receiver
// Nothing is keyed for these: no danger of a path and no check before keying keeps them out.
const unkeyed = computed(() => heard.value || ['off', 'standby', 'receive'].includes(state.value.trim().toLowerCase()))
const input = ref<HTMLInputElement>()

const safe = computed(() => props.stairs?.safe ?? null) // null while nobody knows
const ready = computed(() => book.isChecked(props.stairs?.wiring))
const told = computed(() => props.stairs?.settings ?? null)
const outside = computed(() => book.outside(props.cell))
const goingOut = computed(() => underway(book.id, 'emissions'))
const onTheWay = computed(() => goingOut.value.find((f) => f.file instanceof Blob))
const progress = computed(() => {
  const f = onTheWay.value
  if (!f) return ''
  const size = f.file instanceof Blob && f.file.size > 1e6 ? `, ${(f.file.size / 1e6).toFixed(0)} MB` : ''
  return f.state === 'waiting' ? `${f.label}${size} waits to be sent again` : (f.sent ?? 0) < 1 ? `sending ${f.label}${size}: ${Math.round(100 * (f.sent ?? 0))} %` : `sent; reading ${f.label}${size}`
})
// 0 where it is not told, NaN where what was typed is no number.
const khz = computed(() => Number(rbw.value.trim().replace(',', '.')))

/** What is not told costs something: said before the file is dropped. */
const costs = computed(() => {
  const untold = told.value?.untold
  if (!untold) return []
  return [khz.value === 0 && untold.rbw, !detector.value && untold.detector, !carrierIs.value && untold.modulated].filter((c) => c !== false)
})

function confirm() {
  const now = props.stairs
  if (!now?.safe || ready.value) return
  book.check(now.wiring)
  // Where the instrument sweeps itself, its key comes next.
  if (!analyzer.value) void nextTick(() => input.value?.focus())
}

watch(() => [props.cell.name, props.pathId], () => {
  trouble.value = ''
  askUnit.value = null
})

/** Takes the settings of the card, as they were dialled in. */
function asTold() {
  if (!told.value) return
  rbw.value = String(told.value.rbw_hz / 1e3)
  detector.value = told.value.detector
  hold.value = told.value.hold
}

// The analyzer at the end of the path, where it has a socket.
const analyzer = computed(() => {
  const last = bench.paths.find((p) => p.id === props.pathId)?.parts.at(-1)
  const item = last ? bench.byId.get(last.kit_id) : undefined
  return item?.socket ? item : null
})
const sweeping = ref<InstanceType<typeof InstrumentSweep>>()
/** Keeps a trace that an instrument sent, with what it told of it and what was said beside it. */
async function keepTrace(file: File, draft: object) {
  const wiring = props.stairs?.wiring
  if (!wiring) return
  trouble.value = ''
  const { band, level, mode, frequency_hz } = book.keyed(props.cell)
  const query = { band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, wiring, file: file.name, draft: JSON.stringify({ ...draft, state: state.value }) }
  const toBoard = state.value !== ''
  const got = await send({ what: 'emissions', review: book.id, label: file.name, file, path: (key) => `/api/v1/reviews/${book.id}/measure/emissions?${new URLSearchParams({ ...query, key })}` })
  if (got.ok) done(toBoard)
  else trouble.value = `${file.name}: ${got.refusal.words}`
}

async function take(file: File | null | undefined, unit = '') {
  dragging.value = false
  const wiring = props.stairs?.wiring
  if (!file || !wiring || !unkeyed.value && (!safe.value || !ready.value)) return
  trouble.value = ''
  askUnit.value = null
  if (input.value) input.value.value = '' // or the same file could not be chosen again
  if (file.size > 64 * 2 ** 20) trouble.value = `${file.name} is over 64 MiB, the most that is read.`
  else if (!(khz.value >= 0)) trouble.value = `Bandwidth "${rbw.value}": give a number of kHz, such as 100, or nothing where it is not told.`
  if (trouble.value) return
  const { band, level, mode, frequency_hz } = book.keyed(props.cell)
  const draft = { name: file.name.replace(/\.[^.]*$/, ''), rbw_hz: khz.value * 1e3, detector: detector.value, hold: hold.value, modulated: carrierIs.value, unit, normalised: below.value, offset_db: figure(screenAdds.value), held_s: figure(heldFor.value), pre_amplifier: preAmp.value, state: state.value }
  const query = { band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, wiring, file: file.name, draft: JSON.stringify(draft) }
  const id = book.id
  const outcome = send({ what: 'emissions', review: id, label: file.name, file, path: (key) => `/api/v1/reviews/${id}/measure/emissions?${new URLSearchParams({ ...query, key })}` })
  // What was told is of one sweep: the next is told anew, unless this one is refused.
  const told = beside.value
  const of = box()
  beside.value = untold
  const got = await outcome
  if (got.ok) {
    done(told.state !== '')
    return
  }
  if (box() === of && JSON.stringify(beside.value) === JSON.stringify(untold)) beside.value = told
  trouble.value = `${file.name}: ${got.refusal.stale ? got.refusal.message : got.refusal.words}`
  if (got.refusal.fields.some((f) => f.field === 'unit')) askUnit.value = file
}

// A look is taken as a sweep is; its text is kept as its file.
const lookEntry = ref<InstanceType<typeof LookEntry>>()
const line = useLine(book.id, 'emissions', box)
const heldFor = field('held')
const preAmp = dialled('preAmp')
// What a screen adds belongs to the path and its instrument, and stays until it is changed.
const screenAdds = useLine('', 'screen adds', () => props.pathId)
// What is no figure goes as it was typed, and is refused at its field.
function figure(text: string): number | string | undefined {
  const v = Number(text.trim().replace(',', '.').replace('\u2212', '-'))
  return text.trim() === '' ? undefined : Number.isNaN(v) ? text : v
}
// How well it was read off a picture.
const readOff = computed(() => ({ tolerance_hz: Number(beside.value.tolerance), reading_db: Number(beside.value.reading) }))
function wasReadTo(hz: number, db: number) {
  beside.value = { ...beside.value, tolerance: hz ? String(hz) : '', reading: db ? String(db) : '' }
}
// Looks are told apart by their names: those on their way have theirs already.
const named: Record<string, number> = {}
const nth = computed(() => Math.max(props.looks + goingOut.value.filter((f) => f.line?.box === box()).length, named[box()] ?? 0) + 1)
const lookQuery = computed(() => {
  const { band, level, mode, frequency_hz } = book.keyed(props.cell)
  const n = nth.value
  const draft = { name: `look ${n}`, look: true, rbw_hz: khz.value >= 0 ? khz.value * 1e3 : 0, detector: detector.value, hold: hold.value, modulated: carrierIs.value, held_s: figure(heldFor.value), offset_db: figure(screenAdds.value), pre_amplifier: preAmp.value, state: state.value, heard: heard.value, ...readOff.value }
  return { band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, draft: JSON.stringify(draft), file: `look ${n}.txt` }
})
async function takeLook(text: string, picture: File | null) {
  const wiring = heard.value ? '' : props.stairs?.wiring
  if (wiring === undefined || !unkeyed.value && safe.value === null) trouble.value = props.stairsTrouble || 'The path is still being looked at. What you typed stays.'
  if (wiring === undefined || !unkeyed.value && !safe.value) return
  if (!unkeyed.value && !ready.value) {
    trouble.value = 'Go through “before keying” first; what you typed stays.'
    return
  }
  trouble.value = ''
  const id = book.id
  const query = { ...lookQuery.value, wiring }
  const about = newKey()
  const told = beside.value
  const outcome = send<{ id: string }>({
    id: about, what: 'emissions', review: id, label: `${box()} ${text}`, file: text, stays: true, line: { kind: 'emissions', box: box(), text, told },
    path: (key) => `/api/v1/reviews/${id}/measure/emissions?${new URLSearchParams({ ...query, key })}`,
  })
  if (picture) void send({ what: 'photo', review: id, label: picture.name, about, stays: true, path: (key) => `/api/v1/reviews/${id}/photos?${new URLSearchParams({ key, about, file: picture.name })}`, file: picture })
  named[box()] = nth.value
  // It is on its way, and stands below: the next one is typed at once.
  line.value = ''
  beside.value = { ...beside.value, state: '', heard: false, tolerance: '', reading: '' }
  lookEntry.value?.focus()
  const got = await outcome
  if (got.ok) done(told.state !== '')
}
/** What was taken is shown, unless the next is being typed. */
function done(toBoard: boolean) {
  if (here.value && line.value.trim() === '') emit('taken', toBoard)
}

function retune(typed: string | number) {
  const hz = typedMegahertz(String(typed))
  if (hz == null) trouble.value = 'Give the carrier in MHz, such as 145.500.'
  else {
    book.measureAt(props.cell, hz)
    trouble.value = ''
  }
}

defineExpose({ toLine: () => lookEntry.value?.focus() })

// One key takes the card, another says the wiring was gone through, where nothing is being typed.
const here = useHere() // what was typed stays while one looks elsewhere
useEventListener('keydown', (e: KeyboardEvent) => {
  if (!here.value || isField(e.target) || e.ctrlKey || e.metaKey || e.altKey) return
  if (sweeping.value?.key(e)) {
    e.preventDefault()
    return
  }
  const act = { i: () => (analyzer.value ? void sweeping.value?.begin() : asTold()), c: confirm, o: () => lookEntry.value?.offer() }[e.key]
  if (!act) return
  e.preventDefault()
  act()
})
</script>

<template>
  <p v-if="trouble" class="danger trouble" role="alert">
    {{ trouble }}
    <template v-if="askUnit">Read it in <button v-for="u in ['Hz', 'kHz', 'MHz', 'GHz']" :key="u" type="button" class="link" @click="take(askUnit, u)">{{ u }}</button></template>
  </p>
  <section class="take">
    <div>
      <h2>Take a sweep of {{ cell.name }}, {{ megahertz(book.frequencyOf(cell)) }}</h2>
      <div class="fields">
        <label>Path<ElSelect :model-value="pathId" @update:model-value="emit('path', $event)" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect></label>
        <label>Carrier, MHz<TypedLine :value="(book.frequencyOf(cell) / 1e6).toString()" name="carrier" @commit="retune" /></label>
        <label>Bandwidth, kHz<ElInput v-model="rbw" name="rbw" inputmode="decimal" placeholder="not told" /></label>
        <label>Detector<ElSelect v-model="detector" aria-label="Detector" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['peak', 'rms', 'average', 'sample']" :key="d" :value="d" :label="d" /></ElSelect></label>
        <label>Hold<ElSelect v-model="hold" aria-label="Hold" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['single', 'max', 'average']" :key="d" :value="d" :label="d" /></ElSelect></label>
        <label>Carrier was<ElSelect v-model="carrierIs" aria-label="Bare or modulated" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="bare" label="bare" /><ElOption value="modulated" label="modulated" /></ElSelect></label>
        <label>File in<ElSelect v-model="below" aria-label="Levels of the file"><ElOption :value="false" label="dBm" /><ElOption :value="true" label="dBc, carrier at 0" /></ElSelect></label>
      </div>
      <p v-if="outside" class="doubt" data-outside>{{ outside }}</p>
      <TakeAids :left="left" :settings="told" @held="heldFor = String($event)" />
      <p class="told">
        <ElButton v-if="told" size="small" name="as-told" @click="asTold">Dialled in as told: {{ megahertz(told.rbw_hz) }}, {{ told.detector }}, {{ told.hold }} hold <kbd v-if="!analyzer">i</kbd></ElButton>
        <span v-for="c in costs" :key="c" class="soft">{{ c }}</span>
      </p>
      <InstrumentSweep v-if="analyzer && stairs && !heard" ref="sweeping" :review="book.id" :keyed="book.keyed(cell)" :path-id="pathId" :wiring="stairs.wiring" :modulated="carrierIs" :name="analyzer.name" :ready="unkeyed || safe === true && ready" :carrier="book.frequencyOf(cell)" @taken="keepTrace" />
      <LookEntry v-if="pathId || heard" ref="lookEntry" :key="cell.name" :review="book.id" :box="cell.name" :query="lookQuery" :carrier="book.frequencyOf(cell)" @take="takeLook" @read="wasReadTo" @adds="screenAdds = $event">
        <p v-for="f in goingOut.filter((g) => g.line)" :key="f.id" class="soft going" data-waiting><span class="mono">{{ f.label }}</span> on its way</p>
      </LookEntry>
      <div class="beside">
        <label>Held for, s<ElInput v-model="heldFor" name="held" inputmode="decimal" placeholder="not told" /></label>
        <label>Pre-amplifier<ElSelect v-model="preAmp" aria-label="Pre-amplifier" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="off" label="off" /><ElOption value="on" label="on" /></ElSelect></label>
        <label>The screen adds, dB<ElInput v-model="screenAdds" name="screen-adds" inputmode="decimal" placeholder="as the path says" /></label>
        <span class="soft">of a look or a file; <kbd>l</kbd> goes to the look’s line</span>
        <label class="state">State<input v-model="state" name="state" list="states" placeholder="transmitting, as reviewed" autocomplete="off" /></label>
        <datalist id="states"><option v-for="s in ['off', 'standby', 'receive', 'tuner in', 'tuner out', 'into the antenna', 'other supply', 'before repair', 'after repair']" :key="s" :value="s" /></datalist>
        <label v-if="state" class="tick"><input v-model="heard" type="checkbox" name="heard" /> heard in its own receiver</label>
        <span class="soft">{{ heard ? 'no path and no key-up: the range, the noise as its floor, and the lines as the receiver shows them' : state ? 'stands on the board of states and rules on nothing' : 'another one stands on the board of states: what goes away with it comes from it' }}</span>
      </div>
      <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :stairs="stairs" :trouble="stairsTrouble" @taken="emit('path', $event)" />
      <p v-else-if="!heard" class="soft">No path into an analyzer is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
      <Preflight v-if="pathId && !unkeyed" :safe="safe" :ready="safe === true && ready" @confirm="confirm" />
    </div>
    <label v-if="unkeyed ? stairs : safe && ready" class="drop" :class="{ dragging }" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="take($event.dataTransfer?.files[0])">
      <input ref="input" type="file" name="sweep" accept=".csv,.txt,.tsv,text/csv,text/plain" @change="take(($event.target as HTMLInputElement).files?.[0])" />
      <b>{{ onTheWay ? progress : 'Drop the saved sweep here, or choose the file' }}</b>
      <span class="soft">CSV of any common shape: frequency and level, comma, semicolon or tab, Hz to GHz, up to 64 MiB</span>
    </label>
  </section>
</template>

<style scoped>
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
.going {
  margin: 4px 0;
  font-size: 18px;
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
</style>
