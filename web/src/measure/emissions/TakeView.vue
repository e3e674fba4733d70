<script setup lang="ts">
// Taking a sweep or a look: what to dial in, what is still to look at, how long to hold, the
// path with its dangers, and what is told beside the file.
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onActivated, onMounted, ref, watch } from 'vue'
import { useBench, type Stairs } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import AtRisk from '../../reviews/AtRisk.vue'
import Preflight from '../../reviews/Preflight.vue'
import { typedMegahertz, useReview, useRisk, type Way } from '../../reviews/review'
import { megahertz, words } from '../../shared/figures'
import { useHere } from '../../shared/here'
import { useLine, useTold } from '../../shared/lines'
import { api, ask, newKey, NoAnswer, send, underway, useAsked, wordsOf, type Cell, type Schemas } from '../../shared/server'
import { useHelp } from '../../shared/help'
import { sift } from '../../shared/search'
import TypedLine from '../../shared/TypedLine.vue'
import { isField } from '../../shared/typing'
import InstrumentSweep from './InstrumentSweep.vue'
import LookEntry from './LookEntry.vue'
import TakeAids from './TakeAids.vue'

const props = defineProps<{ cell: Cell; pathId: string; stairs: Stairs | null; stairsTrouble: string; left: [number, number][] | null; looks: number; fits: Way[]; instead: Way | null }>()
const here = useHere() // what was typed stays while one looks elsewhere
const emit = defineEmits<{ path: [id: string]; taken: [toBoard: boolean]; move: [by: number] }>()
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

const { risk, take: takeRisk } = useRisk(() => props.stairs) // taken upon oneself
const inDanger = computed(() => props.stairs?.safe === false)
const safe = computed(() => (props.stairs ? props.stairs.safe || risk.value != null : null)) // null while nobody knows
/** What is said of a danger with what is taken through it. */
const atRisk = (already: boolean) => (!inDanger.value ? undefined : already ? '0/0' : risk.value ? `${risk.value.key_s}/${risk.value.rest_s}` : undefined)
const withRisk = (query: Record<string, string>, already = false) => { const r = atRisk(already); return r ? { ...query, at_risk: r } : query }
const ready = computed(() => book.isChecked(props.stairs?.wiring))
const told = computed(() => props.stairs?.settings ?? null)
// The line is parted by the server: what it tells of the instrument, and the look that it holds.
type Line = Schemas['LooksLine']
const readLine = (text: string): Promise<Line> => ask(api.GET('/api/v1/lines/emissions', { params: { query: { text } } }))
const line = useLine(book.id, 'emissions', box)
const asked = useAsked<[string], Line>('emissions line', () => (line.value.trim() ? ([line.value] as const) : null), readLine, () => true)
const typed = computed(() => (line.value.trim() ? asked.answer.value : null))
/** A path by words of its name: via bench. Those that can count come first. */
const via = computed(() => {
  const words = /^via\s+(\S.*)$/i.exec(line.value.trim())?.[1]
  const fits = (id: string) => Number(props.fits.some((w) => w.path_id === id))
  return words ? sift([...paths.value].sort((a, b) => fits(b.id) - fits(a.id)), words, (p) => p.name)[0] : undefined
})
/** What counts: as typed in the line, else as told before. */
function effective(l: Line | null) {
  const t = l?.told
  const khz = Number(rbw.value.trim().replace(',', '.'))
  return {
    rbw_hz: t?.rbw_hz ?? (khz >= 0 ? khz * 1e3 : 0), detector: t?.detector || detector.value, hold: t?.hold || hold.value, modulated: t?.modulated || carrierIs.value, held_s: t?.held_s ?? figure(heldFor.value),
    offset_db: t?.offset_db ?? figure(screenAdds.value), pre_amplifier: t?.pre_amplifier || preAmp.value, state: t?.state || state.value, heard: t?.heard || heard.value,
  }
}
/** Keeps what a line tells for what comes after it. */
function keepTold(l: Line) {
  const t = l.told
  if (t.rbw_hz != null) rbw.value = String(t.rbw_hz / 1e3)
  if (t.detector) detector.value = t.detector
  if (t.hold) hold.value = t.hold
  if (t.modulated) carrierIs.value = t.modulated
  if (t.held_s != null) heldFor.value = String(t.held_s)
  if (t.offset_db != null) screenAdds.value = String(t.offset_db)
  if (t.pre_amplifier) preAmp.value = t.pre_amplifier
  if (t.state) state.value = t.state
  if (t.heard) heard.value = true
}
// What is told stands in one line; a word of it opens the field behind it.
const opened = ref('')
const folded = computed(() => {
  const e = effective(typed.value)
  const word = (name: string, says: string, told: unknown) => ({ name, says, told: told !== '' && told !== 0 && told !== undefined && told !== false })
  return [
    word('rbw', e.rbw_hz ? `RBW ${megahertz(e.rbw_hz)}` : 'RBW', e.rbw_hz), word('detector', e.detector || 'detector', e.detector), word('hold', e.hold ? `${e.hold} hold` : 'hold', e.hold), word('modulated', e.modulated ? `${e.modulated} carrier` : 'bare or modulated', e.modulated),
    word('held', e.held_s !== undefined ? `held ${e.held_s} s` : 'held for', e.held_s), word('screen-adds', e.offset_db !== undefined ? `the screen adds ${e.offset_db} dB` : 'what the screen adds', e.offset_db), word('pre-amplifier', e.pre_amplifier ? `pre-amplifier ${e.pre_amplifier}` : 'pre-amplifier', e.pre_amplifier),
    word('state', e.state || 'state', e.state), word('carrier', `carrier ${megahertz(book.frequencyOf(props.cell))}`, true), word('file', below.value ? 'file in dBc' : 'file in dBm', true),
  ]
})
function openAt(name: string) {
  opened.value = opened.value === name ? '' : name
  if (opened.value) void nextTick(() => document.querySelector<HTMLElement>(`[data-told-fields] [data-of="${name}"] input`)?.focus())
}
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
  const e = effective(typed.value)
  return [e.rbw_hz === 0 && untold.rbw, !e.detector && untold.detector, !e.modulated && untold.modulated].filter((c) => c !== false)
})

function confirm() {
  const now = props.stairs
  if (!now || !safe.value || ready.value) return
  book.check(now.wiring)
  // Where the instrument sweeps itself, its key comes next.
  if (!analyzer.value) lookEntry.value?.focus()
}

watch(() => [props.cell.name, props.pathId], () => {
  trouble.value = ''
  askUnit.value = null
})
watch(() => props.cell.name, () => {
  opened.value = ''
  toLine()
})
/** The line has the focus wherever one is about to type, unless another field has it. */
const toLine = () => void nextTick(() => { if (here.value && !isField(document.activeElement)) lookEntry.value?.focus() })
onMounted(toLine)
onActivated(toLine)
watch(() => Boolean(props.pathId), toLine) // the line is there once a path is

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
  const query = withRisk({ band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, wiring, file: file.name, draft: JSON.stringify({ ...draft, state: state.value }) })
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
  const query = withRisk({ band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, wiring, file: file.name, draft: JSON.stringify(draft) })
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
  const range = /(^|\s)(\d[\d.,]*(?:[mg]hz)?-\d[\d.,]*(?:[mg]hz)?)(\s|$)/i.exec(typed.value?.look ?? '')?.[2]
  const draft = { name: range ? `look ${n}, ${range}` : `look ${n}`, look: true, ...effective(typed.value), ...readOff.value }
  return { band, level, mode, frequency_hz: String(frequency_hz), path_id: props.pathId, draft: JSON.stringify(draft), file: `look ${n}.txt` }
})
async function takeLook(text: string, picture: File | null, already = false) {
  if (via.value) {
    emit('path', via.value.id)
    line.value = ''
    return
  }
  let l: Line
  try {
    l = await readLine(text)
  } catch (e) {
    trouble.value = e instanceof NoAnswer ? 'The server does not answer: what you typed stays.' : wordsOf(e)
    return
  }
  if (line.value !== text || l.wrong) return
  keepTold(l)
  if (!l.look) {
    line.value = '' // it told of the instrument alone
    return
  }
  const wiring = heard.value ? '' : props.stairs?.wiring
  if (wiring === undefined || !unkeyed.value && safe.value === null) trouble.value = props.stairsTrouble || 'The path is still being looked at. What you typed stays.'
  if (wiring === undefined) return
  if (!unkeyed.value && !safe.value && !already) {
    trouble.value = 'This path is in danger: change it before keying. What was seen already can be kept, marked.'
    return
  }
  if (!unkeyed.value && !ready.value && !already) {
    trouble.value = 'Go through “before keying” first; what you typed stays.'
    return
  }
  trouble.value = ''
  const id = book.id
  const { file, draft } = lookQuery.value
  const query = withRisk({ ...lookQuery.value, file: file!, draft: JSON.stringify({ ...(JSON.parse(draft!) as object), ...effective(l) }), wiring }, already)
  const about = newKey()
  const told = beside.value
  const outcome = send<{ id: string }>({
    id: about, what: 'emissions', review: id, label: `${box()} ${text}`, file: l.look, stays: true, line: { kind: 'emissions', box: box(), text, told },
    path: (key) => `/api/v1/reviews/${id}/measure/emissions?${new URLSearchParams({ ...query, key })}`,
  })
  if (picture) void send({ what: 'photo', review: id, label: picture.name, about, stays: true, path: (key) => `/api/v1/reviews/${id}/photos?${new URLSearchParams({ key, about, file: picture.name })}`, file: picture })
  named[box()] = nth.value
  // It is on its way, and stands below: the next one is typed at once.
  line.value = ''
  opened.value = ''
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

useHelp(() => ({
  title: 'Taking a look or a sweep',
  keys: [
    ['l', 'goes to the line'], ['30-1000 -70', 'the range in MHz and its floor'], ['2h -62', 'a harmonic'], ['205 -66', 'a peak elsewhere'], ['h-7.4-62?', 'the carrier and its harmonics in order'], ['rbw 100k', 'resolution bandwidth; also peak, rms, average, sample'], ['max', 'hold; also single, hold average'],
    ['bare', 'or modulated: the carrier'], ['30s', 'how long it was held'], ['offset 40', 'what the screen adds'], ['preamp off', 'or on'], ['state …', 'what the radio was doing: standby, off'], ['c', 'what stands before keying is so'], ['h', 'a hold begins, and ends'], ['i', 'dialled in as told; or the instrument sweeps'], ['m', 'the next path that can count, beside the line'], ['via …', 'the path by words of its name'], ['+', 'again with 10 dB more'],
  ],
  words: ['look', 'sweep', 'floor', 'product', 'harmonic', 'dBc', 'RBW', 'offset', 'room', 'coverage', 'path', 'staircase'],
}))
defineExpose({ toLine: () => lookEntry.value?.focus() })

// One key takes the card, another says the wiring was gone through, where nothing is being typed.
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
    <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :stairs="stairs" :trouble="stairsTrouble" thin @taken="emit('path', $event)">
      <label class="soft path">Path<ElSelect :model-value="pathId" placeholder="choose a path" aria-label="Path" @update:model-value="emit('path', $event)"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="fits.some((w) => w.path_id === p.id) ? p.name : `${p.name} (cannot count here)`" /></ElSelect></label>
    </PathStaircase>
    <p v-else-if="!heard && paths.length === 0" class="soft">No path into an analyzer is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
    <p v-if="instead" class="doubt" data-instead>Another path for this one: through {{ instead.name }} it cannot count: {{ instead.why_not }}</p>
    <p v-if="outside" class="doubt" data-outside>{{ outside }}</p>
    <template v-if="pathId && !unkeyed">
      <AtRisk v-if="inDanger && !risk" :stairs="stairs!" :typed="!!typed?.look" @risk="takeRisk($event)" @taken="takeLook(line, null, true)" />
      <p v-else-if="inDanger && risk" class="danger" data-at-risk>Briefly, at your own risk: at most {{ risk.key_s }} s, then {{ risk.rest_s }} s of rest.</p>
      <Preflight :safe="safe" :ready="safe === true && ready" @confirm="confirm" />
    </template>
    <h2 class="of">{{ cell.name }}, {{ megahertz(book.frequencyOf(cell)) }}</h2>
    <LookEntry v-if="pathId || heard" ref="lookEntry" :key="cell.name" :review="book.id" :box="cell.name" :query="lookQuery" :look="via ? '' : (typed?.look ?? '')" :told="via ? [`through ${via.name}`] : (typed?.says ?? [])" :wrong="via ? '' : (typed?.wrong ?? '')" :carrier="book.frequencyOf(cell)" @take="takeLook" @read="wasReadTo" @adds="screenAdds = $event" @key="(k) => (k === 'c' ? confirm() : emit('move', k === 'ArrowDown' ? 1 : -1))">
      <p v-for="f in goingOut.filter((g) => g.line)" :key="f.id" class="soft going" data-waiting><span class="mono">{{ f.label }}</span> on its way</p>
      <p class="folded" data-told><span class="soft">Told:</span><button v-for="w in folded.filter((x) => x.told)" :key="w.name" type="button" class="link" :name="`told-${w.name}`" :aria-expanded="opened === w.name" @click="openAt(w.name)">{{ words(w.says) }}</button><span class="soft">not told:</span><button v-for="w in folded.filter((x) => !x.told)" :key="w.name" type="button" class="link soft" :name="`told-${w.name}`" :aria-expanded="opened === w.name" @click="openAt(w.name)">{{ w.says }}</button>
        <ElButton v-if="told" size="small" name="as-told" @click="asTold">Dialled in as told: {{ megahertz(told.rbw_hz) }}, {{ told.detector }}, {{ told.hold }} hold <kbd v-if="!analyzer">i</kbd></ElButton></p>
      <div v-if="opened" class="fields" data-told-fields>
        <label data-of="rbw">Resolution bandwidth, kHz<ElInput v-model="rbw" name="rbw" inputmode="decimal" placeholder="not told" /></label>
        <label data-of="detector">Detector<ElSelect v-model="detector" aria-label="Detector" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['peak', 'rms', 'average', 'sample']" :key="d" :value="d" :label="d" /></ElSelect></label>
        <label data-of="hold">Hold<ElSelect v-model="hold" aria-label="Hold" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption v-for="d in ['single', 'max', 'average']" :key="d" :value="d" :label="d" /></ElSelect></label>
        <label data-of="modulated">Carrier was<ElSelect v-model="carrierIs" aria-label="Bare or modulated" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="bare" label="bare" /><ElOption value="modulated" label="modulated" /></ElSelect></label>
        <label data-of="held">Held for, s<ElInput v-model="heldFor" name="held" inputmode="decimal" placeholder="not told" /></label>
        <label data-of="screen-adds">The screen adds, dB<ElInput v-model="screenAdds" name="screen-adds" inputmode="decimal" placeholder="as the path says" /></label>
        <label data-of="pre-amplifier">Pre-amplifier<ElSelect v-model="preAmp" aria-label="Pre-amplifier" :empty-values="[null, undefined]"><ElOption value="" label="not told" /><ElOption value="off" label="off" /><ElOption value="on" label="on" /></ElSelect></label>
        <label data-of="carrier">Carrier, MHz<TypedLine :value="(book.frequencyOf(cell) / 1e6).toString()" name="carrier" @commit="retune" /></label>
        <label data-of="file">A file is in<ElSelect v-model="below" aria-label="Levels of the file"><ElOption :value="false" label="dBm" /><ElOption :value="true" label="dBc, carrier at 0" /></ElSelect></label>
        <label data-of="state">State<ElInput v-model="state" name="state" list="states" placeholder="transmitting, as reviewed" autocomplete="off" /></label>
        <datalist id="states"><option v-for="s in ['off', 'standby', 'receive', 'tuner in', 'tuner out', 'into the antenna', 'other supply', 'before repair', 'after repair']" :key="s" :value="s" /></datalist>
        <label v-if="state" class="tick"><input v-model="heard" type="checkbox" name="heard" /> heard in its own receiver</label>
        <span class="soft wide">{{ heard ? 'no path and no key-up: the range, the noise as its floor, and the lines as the receiver shows them' : state ? 'stands on the board of states and rules on nothing' : 'another state stands on the board of states: what goes away with it comes from it' }}</span>
      </div>
      <p v-if="costs.length" class="costs soft">{{ costs.join(' ') }}</p>
      <template #ways>
        <label v-if="unkeyed ? stairs : safe && ready" class="drop" :class="{ dragging }" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="take($event.dataTransfer?.files[0])">
          <input ref="input" type="file" name="sweep" accept=".csv,.txt,.tsv,text/csv,text/plain" @change="take(($event.target as HTMLInputElement).files?.[0])" />
          <span>{{ onTheWay ? progress : 'A saved sweep: drop it, or ' }}<span v-if="!onTheWay" class="link" title="CSV of any common shape: frequency and level, comma, semicolon or tab, Hz to GHz, up to 64 MiB">choose the file</span></span>
        </label>
      </template>
    </LookEntry>
    <InstrumentSweep v-if="analyzer && stairs && !heard" ref="sweeping" :review="book.id" :keyed="book.keyed(cell)" :path-id="pathId" :wiring="stairs.wiring" :modulated="effective(typed).modulated" :name="analyzer.name" :ready="unkeyed || safe === true && ready" :carrier="book.frequencyOf(cell)" @taken="keepTrace" />
    <TakeAids :left="left" :settings="told" @held="heldFor = String($event)" />
  </section>
</template>

<style scoped>
.path {
  display: block;
  font-size: 14px;
  margin-bottom: 4px;
}
.of {
  margin: 10px 0 2px;
}
.folded {
  display: flex;
  flex-wrap: wrap;
  gap: 3px 12px;
  align-items: baseline;
  margin: 6px 0;
  font-size: 15px;
}
.costs {
  font-size: 14px;
  margin: 2px 0;
}
.wide {
  grid-column: 1 / -1;
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
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 22px;
  align-items: end;
  margin: 6px 0 10px;
  font-size: 14px;
}
.fields label {
  color: var(--soft);
}
.drop {
  border: 1px dashed var(--soft);
  padding: 6px 12px;
  cursor: pointer;
}
.drop.dragging {
  border-color: var(--ink);
  background: var(--press);
}
.drop input {
  position: absolute;
  width: 1px;
  height: 1px;
  opacity: 0;
}
.drop:focus-within {
  outline: 2px solid var(--ink);
}
.drop .link {
  text-decoration: underline;
}
.doubt {
  border-left: 4px solid var(--amber);
  padding: 2px 12px;
  font-size: 17px;
}
</style>
