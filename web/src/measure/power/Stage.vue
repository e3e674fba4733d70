<script setup lang="ts">
// The key-up screen: read from a metre away, driven from the one entry line.
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useBench } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import { claimed, db, percent, watts, words, dial as dialDigits } from '../../shared/figures'
import { remember } from '../../shared/remember'
import { useInstruments } from '../../shared/instruments'
import { useLine, useTold } from '../../shared/lines'
import { api, ask, NoAnswer, outbox, send, useAsked, wordsOf, type Cell, type Keyed, type Reading, type Schemas } from '../../shared/server'
import { type Standing } from '../../shared/StandingWords.vue'
import { useBroadcastChannel } from '@vueuse/core'
import BoxPicker from '../../reviews/BoxPicker.vue'
import PhotoStrip from '../../reviews/PhotoStrip.vue'
import AtRisk from '../../reviews/AtRisk.vue'
import Preflight from '../../reviews/Preflight.vue'
import { typedMegahertz, useChosen, useReview, useRisk, useStaircase, useWays } from '../../reviews/review'
import { stands } from '../../scratch/standing'
import { helpOpen, useHelp, type Key } from '../../shared/help'
import { sift } from '../../shared/search'
import StepWords from '../../reviews/sheet/StepWords.vue'
import { useSteps } from '../../reviews/sheet/steps'
import AdjustStrip from './AdjustStrip.vue'
import BudgetLines from './BudgetLines.vue'
import KeyTimer from './KeyTimer.vue'
import { echo as echoOf, mayCommand } from './words'
import PowerGauge from './PowerGauge.vue'
import ReadingLog from './ReadingLog.vue'
import StudyView from './StudyView.vue'

const book = useReview()
const review = computed(() => book.review!)
const bench = useBench()
const { at, cell } = useChosen('power', () => book.cells)
const paths = computed(() => bench.paths.filter((p) => p.serves.includes('power')))
// The last of them; those before are fetched when somebody goes back to them.
async function pageOf(id: string, from: number, limit: number) {
  const answer = api.GET('/api/v1/reviews/{id}/measure/power', { params: { path: { id }, query: { from, limit } } })
  return { rows: await ask(answer), from: Number((await answer).response.headers.get('X-From') ?? 0) }
}
const taken = useAsked('power measured', () => [book.id], (id: string) => pageOf(id, -1, 500))
const earlier = ref<{ rows: Reading[]; from: number } | null>(null)
const first = computed(() => earlier.value?.from ?? taken.answer.value?.from ?? 0)
const readings = computed(() => {
  const now = taken.answer.value
  return now ? [...(earlier.value?.rows.slice(0, now.from - earlier.value.from) ?? []), ...now.rows] : []
})
async function goBack() {
  const from = Math.max(0, first.value - 500)
  try {
    const more = await pageOf(book.id, from, first.value - from)
    earlier.value = { rows: [...more.rows, ...(earlier.value?.rows ?? taken.answer.value?.rows ?? [])], from }
  } catch (e) {
    blocked.value = wordsOf(e)
  }
}
const counted = useAsked('power boxes', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/power/boxes', { params: { path: { id } } })))
const ways = useWays('power', () => cell.value, () => paths.value)
const pathId = ways.pathId
const text = useLine(book.id, 'power', () => cell.value?.name ?? '')
const obeying = ref('') // the command that is being looked up
const blocked = ref('') // why Enter logged nothing; a preview does not clear it
const striking = ref<Reading | null>(null) // the very reading that was shown when the key was pressed
const reason = useLine('', 'why', () => striking.value?.id ?? '') // until it is said
const timer = ref<InstanceType<typeof KeyTimer>>()
const line = ref<HTMLTextAreaElement>()
const why = ref<HTMLInputElement>()
const dial = ref<HTMLInputElement>()
const dialled = computed(() => (cell.value ? dialDigits(book.frequencyOf(cell.value)) : ''))

const stairs = useStaircase(() => cell.value, () => pathId.value)
const { risk, take: takeRisk } = useRisk(() => stairs.answer.value) // taken upon oneself
const inDanger = computed(() => stairs.answer.value?.safe === false)
const safe = computed(() => (stairs.answer.value ? stairs.answer.value.safe || risk.value != null : null)) // null while nobody knows
const ready = computed(() => book.isChecked(stairs.answer.value?.wiring))

// What stands beside the line: it goes with every reading until it is changed.
const path = computed(() => paths.value.find((p) => p.id === pathId.value))
// The scale is the one that is proposed for this box, until another is turned to there.
const turned = remember<Record<string, number>>(`scales ${book.id}`, {})
const ofBox = computed(() => `${pathId.value} ${cell.value?.name ?? ''}`)
const scaleW = computed(() => [turned.value[ofBox.value], ways.way.value?.scale_w].find((w) => w != null && path.value?.scales.includes(w)) ?? undefined)
const settings = remember(`settings ${book.id}`, '')
const target = ref<{ w: number; atMost: boolean } | null>(null)
const displayW = ref<number | null>(null) // of the next reading alone
const trusted = ref<{ name: string; w: number } | null>(null)
const asked = ref(false) // listened, asked and identified, with an antenna on
watch([pathId, at], () => (asked.value = false))
const budget = ref(false)
const study = ref(false)

// What instruments said of the line, for as long as it stands there as they said it.
const said = useTold(book.id, 'power by', () => cell.value?.name ?? '', { text: '', by: '' })
const known = useInstruments()
const reading = ref(false)
const hasSocket = computed(() => path.value?.parts.some((p) => bench.byId.get(p.kit_id)?.spec.meter && bench.byId.get(p.kit_id)?.socket) ?? false)
/** Reads the meter by its socket, and puts it on the line. */
async function readMeter() {
  const c = cell.value
  if (reading.value || !c) return
  if (!hasSocket.value) {
    blocked.value = 'The meter of this path has no socket: write its address on the bench, or type what it shows.'
    return
  }
  reading.value = true
  blocked.value = ''
  const was = text.value
  try {
    const got = await known.connect((aware) => ask(api.POST('/api/v1/paths/{id}/read', { params: { path: { id: pathId.value }, query: { aware } }, body: { text: was } })))
    if (cell.value !== c || text.value !== was) blocked.value = `Read meanwhile: ${got.by.map((b) => b.said).join(' ')}. What you typed stays.`
    else {
      const before = was && said.value.text === was ? (JSON.parse(said.value.by || '[]') as By[]) : []
      text.value = got.text
      said.value = { text: got.text, by: JSON.stringify([...before, ...got.by]) }
    }
  } catch (e) {
    blocked.value = e instanceof NoAnswer ? 'The server does not answer: nothing was read.' : wordsOf(e)
  } finally {
    reading.value = false
    toLine()
  }
}
type By = Schemas['RecordBy']
const saidBy = computed(() => (said.value.by ? (JSON.parse(said.value.by) as By[]) : []))

// What can be done now, at most six of them; all there are stand in the panel of keys.
const many = computed(() => ways.fits.value.length > 1)
const hints = computed<Key[]>(() => {
  if (striking.value) return [['Enter', 'strikes it'], ['Esc', 'leaves it']]
  if (text.value.trim()) return [['Enter', isAlone.value || via.value || typed.value?.kind !== 'entry' ? 'does it' : 'logs it'], ['?', 'then a remark']]
  const now: Key[] = []
  if (!ready.value && safe.value) now.push(['c', 'checked'])
  else now.push(['Space', 'timer'])
  if (hasSocket.value) now.push(['i', 'reads the meter'])
  if (many.value) now.push(['m', 'next path'])
  if ((path.value?.scales.length ?? 0) > 1) now.push(['s ⏎', 'next scale'])
  if (last.value) now.push(['x', 'strikes the last'], ['=', 'same again'])
  else now.push(['r', 'refused'], ['n', '144.1 h'])
  return now.slice(0, 6)
})
useHelp(() => ({
  title: 'Power, on the empty line',
  keys: [
    ['c', 'what stands before keying is so'], ['Space', 'timer'], ['i', 'reads the meter by its socket'], ['m', 'next path that can count here'], ['via …', 'the path by words of its name'], ['s ⏎', 'next scale of the meter'], ['f ⏎', 'another frequency'], ['↑ ↓', 'another box or step'],
    ['x', 'strikes the last reading'], ['=', 'same again'], ['b', 'uncertainty budget'], ['v ⏎', 'curves'], ['n …', 'a step that is not planned: n 144.1 h, n ch 7'], ['r', 'the radio refuses to transmit here'], ['j …', 'adjust: j 5 to 5 W, j <5 under a class limit'], ['d …', 'what its display says: d 5'],
    ['g …', 'its settings'], ['t …', 'a radio that is trusted, and what it gives'], ['k …', 'short, open: what the meter shows'], ['? …', 'a remark, behind a reading too'], ['4.71 4.86', 'readings, averaged'], ['36.4dBm', 'in another unit'], ['9.6 fr .4', 'forward and reflected'], ['10.2 pk 31', 'carrier, and peak when spoken into'], ['swr 1.3 13.6v 2.9a h', 'SWR, volts, amps, the level shown'],
  ],
  words: ['box', 'level', 'claim', 'reading', 'at the connector', 'path', 'k = 2', 'SWR', 'wiring', 'step', 'in use', 'void', 'typical'],
}))

// What a line asks for. The server reads its letter; every other line is an entry.
type Command = Schemas['PowerCommand']
type Draft = Schemas['PowerDraft']
const entry = (line: string): Command => ({ kind: 'entry', says: '', text: line, w: null, at_most: false, name: '' })
const readLine = (line: string) => ask(api.GET('/api/v1/lines/power', { params: { query: { text: line } } }))
const read = useAsked<[string], Command>('power line', () => (mayCommand(text.value) ? ([text.value] as const) : null), readLine)
const typed = computed(() => (mayCommand(text.value) ? read.answer.value : entry(text.value)))
const isKept = (c: Command | null) => c?.kind === 'entry' || c?.kind === 'fact'
/** What is sent of a line that is kept. */
const draftOf = (line: string): Draft => ({
  text: line, scale_w: scaleW.value, settings: settings.value || undefined, display_w: displayW.value ?? undefined, target_w: target.value?.w, at_most: target.value?.atMost || undefined, trusted: trusted.value ?? undefined, by: said.value.text && line.includes(said.value.text.split(' ')[0]!) ? saidBy.value : undefined,
})

/** Letters that words begin with, swr, f 146.54, vswr: commands only alone on the line, and then Enter. */
const alone: Record<string, { says: string; does: () => void }> = {
  s: { says: 'the next scale of the meter', does: nextScale },
  f: { says: 'another frequency', does: () => dial.value?.select() },
  v: { says: 'the curves', does: () => (study.value = true) },
  '?': { says: 'all keys and words; go on typing for a remark', does: () => (helpOpen.value = true) },
}
/** A path by words of its name: via dummy. */
const via = computed(() => {
  const words = /^via\s+(\S.*)$/i.exec(text.value.trim())?.[1]
  const id = words ? sift([...paths.value].sort((a, b) => Number(fitsHere(b.id)) - Number(fitsHere(a.id))), words, (p) => p.name)[0]?.id : undefined
  return id ? paths.value.find((p) => p.id === id) : undefined
})
const fitsHere = (id: string) => ways.fits.value.some((w) => w.path_id === id)
const isAlone = computed(() => alone[text.value.trim().toLowerCase()])
// What is typed, worked out: of this line, in this box, through this path, and of no other.
type About = [id: string, keyed: Keyed, path: string, draft: Draft]
const preview = useAsked<About, Reading>(
  'preview',
  () => (cell.value && pathId.value && text.value.trim() && isKept(typed.value) && !isAlone.value && !/^via\s/i.test(text.value) && !striking.value ? ([book.id, book.keyed(cell.value), pathId.value, draftOf(text.value)] as const) : null),
  (id, keyed, path_id, draft) => ask(api.POST('/api/v1/reviews/{id}/measure/power/preview', { params: { path: { id } }, body: { ...keyed, path_id, draft } })),
  (was, now) => JSON.stringify(was.slice(0, 3)) === JSON.stringify(now.slice(0, 3)),
)
const live = computed(() => preview.answer.value)
const trouble = computed(() => preview.trouble.value || taken.trouble.value || bench.trouble)

const isOf = (r: { band: string; level: string; mode: string }, c: Cell) => r.band === c.band.name && r.level === c.level && r.mode === c.mode
const inBox = (r: Reading) => cell.value != null && isOf(r, cell.value)
const isDone = (c: Cell) => counted.answer.value?.find((b) => b.name === c.name)?.done ?? false
const last = computed(() => readings.value.filter((r) => inBox(r) && (r.standing === 'in-force' || r.standing === 'explained')).at(-1) ?? null)
// A radio that is trusted, keyed through this path: what the meter shows today.
const reference = computed(() => readings.value.filter((r) => r.trusted && r.meter_db != null && r.through.path_id === pathId.value && r.standing !== 'struck').at(-1) ?? null)
const shown = computed(() => live.value ?? last.value)
const waiting = computed(() => outbox.facts.filter((f) => f.what === 'power' && f.review === book.id))

const onTheWay = computed(() => waiting.value.filter((f) => f.state !== 'aside' && f.line?.box === cell.value?.name))
// The quantity claimed: the peak where that is claimed, or alone was read.
const figured = computed(() => (cell.value?.pep || !shown.value?.result ? shown.value?.peak ?? shown.value?.result : shown.value.result) ?? null)
const isPeak = computed(() => figured.value != null && figured.value === shown.value?.peak)
const figure = computed(() => (figured.value ? watts(figured.value.at_connector_w).split(' ') : ['–', '']))

const toLine = () => void nextTick(() => line.value?.focus())
onMounted(toLine)
watch([text, at, pathId, dialled], () => (blocked.value = ''), { flush: 'sync' })
watch(pathId, toLine)

function confirm() {
  const now = stairs.answer.value
  if (!now || !safe.value) return
  book.check(now.wiring)
  blocked.value = ''
  toLine()
}

/** Does what a line that is not kept asks for. What is typed meanwhile stays. */
async function obey(c: Command) {
  switch (c.kind) {
    case 'step':
      return dialUp(c.text)
    case 'target': {
      const w = c.w ?? cell.value?.claimed_w ?? 0
      target.value = w > 0 ? { w, atMost: c.at_most } : null
      break
    }
    case 'no-target':
      target.value = null
      break
    case 'display':
      displayW.value = c.w
      break
    case 'settings':
      settings.value = c.text
      break
    case 'trusted':
      trusted.value = { name: c.name, w: c.w! }
  }
}

/** Dials an unplanned step: what was typed meanwhile is meant for it, and goes there. */
async function dialUp(typed: string) {
  const k = await ask(api.POST('/api/v1/reviews/{id}/unplanned', { params: { path: { id: book.id } }, body: { text: typed, now: book.keyed(cell.value!) } }))
  const i = book.cells.findIndex((c) => isOf(k as Keyed, c))
  if (i < 0) return
  const since = text.value
  if (i !== at.value) text.value = ''
  steps.leave()
  at.value = i
  book.measureAt(book.cells[i]!, k.frequency_hz)
  if (since) text.value = since
}

/** Obeys a line whose letter may be a command; false where it is to be kept, as is one that nobody can be asked about. */
async function obeyed(line: string): Promise<boolean> {
  let c = typed.value
  obeying.value = line
  try {
    c ??= await readLine(line).catch((e: unknown) => {
      if (e instanceof NoAnswer) return entry(line)
      throw e
    })
    if (isKept(c) && text.value === line) return false
    if (text.value !== line) blocked.value = `“${line}” was still being read when you typed on: Enter once more.`
    else if (c.kind === 'unclear') blocked.value = c.says
    else {
      text.value = ''
      await obey(c)
    }
  } catch (e) {
    if (!text.value) text.value = line
    blocked.value = `${line}: ${wordsOf(e)}`
  } finally {
    obeying.value = ''
    toLine()
  }
  return true
}

async function log(already = false) {
  const typed = text.value
  const c = cell.value
  if (!c || typed.trim() === '') return
  if (obeying.value) {
    blocked.value = `“${obeying.value}” is still being looked up. What you typed stays.`
    return
  }
  if (/^via\b/i.test(typed.trim())) {
    blocked.value = 'No path goes by that: via and words of its name.'
    return
  }
  if (await obeyed(typed)) return
  const sent = draftOf(typed)
  const wiring = stairs.answer.value?.wiring
  if (already) blocked.value = ''
  else if (safe.value === null) blocked.value = stairs.trouble.value || 'The path is still being looked at. What you typed stays.'
  else if (!safe.value) blocked.value = 'This path is in danger: change it before keying. What you typed stays; what was read already can be kept, marked.'
  else if (path.value?.in_use && target.value && !asked.value) blocked.value = 'An antenna is on: listen, ask and identify first; what you typed stays.'
  else if (!ready.value) blocked.value = 'Go through “before keying” first; what you typed stays.'
  else if (preview.refused.value) blocked.value = preview.trouble.value
  else blocked.value = ''
  if (blocked.value) return
  const keyed = book.keyed(c)
  const outcome = send<Reading>({
    what: 'power', review: book.id, label: `${c.name} ${typed}`, path: `/api/v1/reviews/${book.id}/measure/power`, stays: true, line: { kind: 'power', box: c.name, text: typed },
    json: (id) => ({ id, ...keyed, path_id: pathId.value, wiring, draft: sent, at_risk: inDanger.value ? (already ? { key_s: 0, rest_s: 0 } : risk.value) : undefined }),
  })
  // It is on its way, and stands below: the next one is typed at once.
  text.value = ''
  said.value = { text: '', by: '' }
  displayW.value = trusted.value = null
  toLine()
  const got = await outcome
  if (!got.ok && got.refusal.stale) void stairs.again()
}

async function say(target_id: string, standing: Standing, words: string) {
  await send({
    what: 'standing', review: book.id, label: `${standing}: ${words}`, about: target_id, stays: true, path: `/api/v1/reviews/${book.id}/standings`,
    json: (id) => ({ id, target_id, standing, reason: words }),
  })
}

function strike() {
  if (!striking.value || reason.value.trim() === '') return
  void say(striking.value.id, 'struck', reason.value.trim())
  reason.value = ''
  leaveStrike()
}
function leaveStrike() {
  striking.value = null
  toLine()
}
watch(striking, (on) => { if (on) void nextTick(() => why.value?.focus()) })

/** Another frequency of the band; what is none stays to be put right. */
function retune() {
  const hz = typedMegahertz(dial.value?.value ?? '')
  if (hz == null) blocked.value = 'Give the frequency in MHz, such as 145.500.'
  else if (cell.value) {
    book.measureAt(cell.value, hz)
    blocked.value = ''
  }
}

// With the run sheet the next step follows; without it the next box.
const steps = useSteps()
const step = computed(() => (steps.now.value?.kind === 'power' && steps.now.value.box === cell.value?.name ? steps.now.value : null))
function move(by: number) {
  const next = step.value && steps.beside(by)
  if (next) {
    if (next.kind !== 'power') return void steps.open(next)
    steps.take(next)
    at.value = book.cells.findIndex((c) => c.name === next.box)
    pathId.value = next.path_id
    return
  }
  if (step.value) return
  at.value = (at.value + by + book.cells.length) % Math.max(1, book.cells.length)
}

function nextScale() {
  const all = path.value?.scales ?? []
  if (all.length === 0) blocked.value = 'This meter has one scale.'
  else turned.value = { ...turned.value, [ofBox.value]: all[(all.indexOf(scaleW.value ?? all.at(-1)!) + 1) % all.length]! }
}
/** A command that was just obeyed, whose letter a word begins with too: where it goes on to be
 * one, mid, med, ch or cw, the command is taken back and the word stands. */
let just: { letter: string; goesOn: RegExp; back: () => void } | null = null
/** A letter on the empty line is a command where no word can begin with it; everything else is an entry. */
function command(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return
  if (just && ['', just.letter].includes(text.value) && just.goesOn.test(e.key)) {
    e.preventDefault()
    just.back()
    text.value = just.letter + e.key
  }
  just = null
  const to = via.value
  const meant = e.key !== 'Enter' ? undefined : to ? { does: () => (pathId.value = to.id) } : isAlone.value
  if (meant) {
    e.preventDefault()
    e.stopPropagation()
    text.value = ''
    blocked.value = ''
    meant.does()
    return
  }
  if (e.key === 'i' && text.value !== '' && text.value === said.value.text) {
    e.preventDefault()
    void readMeter()
    return
  }
  if (e.key === 'Enter' && !e.shiftKey) {
    e.preventDefault()
    void log()
    return
  }
  if (text.value.trim() !== '') return
  const actions: Record<string, () => void> = {
    ' ': () => timer.value?.toggle(),
    m: () => {
      const was = pathId.value
      just = { letter: 'm', goesOn: /^[ei]$/i, back: () => (pathId.value = was) }
      ways.next()
    },
    i: () => void readMeter(),
    b: () => (budget.value = !budget.value),
    c: () => {
      const wiring = ready.value ? '' : (stairs.answer.value?.wiring ?? '')
      if (wiring) just = { letter: 'c', goesOn: /^[hw]$/i, back: () => book.uncheck(wiring) }
      confirm()
    },
    x: () => (striking.value = last.value),
    '=': () => (text.value = last.value?.text ?? ''),
    ArrowDown: () => move(1),
    ArrowUp: () => move(-1),
  }
  const act = actions[e.key]
  if (!act) return
  e.preventDefault()
  act()
}

const echo = computed(() => (via.value ? `Enter: through ${via.value.name}` : isAlone.value ? `Enter: ${isAlone.value.says}` : typed.value?.says || (live.value ? echoOf(live.value) : '')))

// Another window shows the figures large, for a camera. What a key-up screen in a third one says is
// answered by none: the two would never stop.
const { post, data: heard } = useBroadcastChannel<unknown, unknown>({ name: 'talloak figures' })
watch(heard, (what) => {
  if (what !== 'ask') return
  heard.value = ''
  tell()
})
watch([shown, cell, dialled], tell, { immediate: true })
function tell() {
  const c = cell.value
  if (!c) return
  const r = figured.value
  post({ review: book.id, box: c.name, mhz: dialled.value, claimed: claimed(c), power: figure.value.join(' '), live: Boolean(live.value), range: r?.low_w != null ? `${watts(r.low_w)} to ${watts(r.high_w)}, k = 2` : '', percent: shown.value?.against_claim?.delta_db != null ? `${percent(shown.value.against_claim.percent)} of the claim` : '' })
}
// What the scratch pad may be filled in with.
watch([shown, cell, dialled], () => {
  const c = cell.value
  const read = figured.value?.at_connector_w
  const f = stairs.answer.value?.loss_db[0]
  if (c) stands({ mhz: dialled.value, w: c.claimed_w > 0 ? String(c.claimed_w) : '', read: read ? String(Number(read.toPrecision(6))) : '', power: read ? `${Number(read.toPrecision(6))} W` : '', loss: f == null ? '' : String(Number(f.toFixed(2))), swr: shown.value?.entry.swr == null ? '' : String(shown.value.entry.swr), book: review.value.rules.books?.[c.band.name] ?? review.value.rules.rule_book })
}, { immediate: true })

const ghostsAsked = useAsked('ghosts', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/ghosts', { params: { path: { id } } })))
const ghost = computed(() => ghostsAsked.answer.value?.find((g) => g.box === cell.value?.name) ?? null)

const doubts = computed(() => (shown.value?.doubts ?? []).slice(0, 2))
const more = computed(() => (shown.value?.doubts ?? []).length - doubts.value.length)
// Said as long as it is so, whatever else is.
const outside = computed(() => (cell.value ? book.outside(cell.value) : ''))
</script>

<template>
  <p v-if="book.cells.length === 0" class="soft">
    Nothing to key yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink> such as <span class="mono">2m 5/1</span> and its levels appear here.
  </p>
  <StudyView v-else-if="study" @back="study = false; toLine()" />
  <div v-else-if="cell" class="stage">
    <section class="keyup">
      <BoxPicker v-model="at" :cells="book.cells" :done="isDone"><span class="soft"><kbd>↑</kbd> <kbd>↓</kbd> <StepWords v-if="step" :steps="steps" @move="move" /></span></BoxPicker>
      <div class="what">
        <div>
          <label class="frequency"><input ref="dial" :value="dialled" name="frequency" aria-label="Frequency, MHz" inputmode="decimal" @change="retune" @keydown.enter.prevent="line?.focus()" /><small>MHz</small></label>
          <p v-if="stairs.answer.value?.channel" class="channel" data-channel>{{ stairs.answer.value.channel }}</p>
        </div>
        <div v-if="step?.supply_v" class="level" data-volts>{{ step.supply_v }} V<small>at the radio</small></div>
        <div class="level">
          {{ cell.level }}
          <small>{{ cell.mode || 'mode not said' }}, {{ cell.claimed_w > 0 ? 'claimed ' : '' }}{{ claimed(cell) }}</small>
          <small v-if="scaleW" data-scale>scale to <b>{{ scaleW }} W</b></small>
        </div>
      </div>
      <p v-if="outside" class="doubt" data-outside>{{ outside }}</p>
      <div class="result" :class="{ idle: !live }">
        <div class="power" data-testid="power">{{ figure[0] + ' ' }}<small>{{ figure[1] }}</small></div>
        <div class="beside">
          <template v-if="figured?.low_w != null">
            <span>{{ watts(figured.low_w) }} to {{ watts(figured.high_w) }}</span>
            <span class="soft">{{ isPeak ? 'peak, ' : '' }}at the connector, k = 2</span>
          </template>
          <span v-if="shown?.against_claim?.delta_db != null">{{ percent(shown.against_claim.percent) }} of the claim, {{ db(shown.against_claim.delta_db) }}</span>
          <span v-else-if="shown?.in_use_percent != null" data-in-use>{{ percent(shown.in_use_percent) }} of the claim, in use</span>
          <span v-if="shown?.am_depth_percent != null">modulated to {{ shown.am_depth_percent.toFixed(0) }} % ({{ shown.am_depth_low_percent?.toFixed(0) }} to {{ shown.am_depth_high_percent?.toFixed(0) }} %)</span>
          <span v-if="shown?.efficiency_percent != null" class="soft">{{ shown.efficiency_percent.toFixed(0) }} % efficient</span>
          <span v-if="shown?.display_db != null" class="soft">its display: {{ db(shown.display_db) }}</span>
          <span v-if="shown?.meter_db != null">{{ shown.trusted?.name }}: the meter shows {{ db(shown.meter_db) }}</span>
          <span v-if="shown && !live" class="soft">last logged</span>
        </div>
      </div>
      <PowerGauge v-if="cell.claimed_w > 0" :cell="cell" :reading="shown" :rules="review.rules" :ghost="ghost" />
      <AdjustStrip v-if="target" :target="target.w" :at-most="target.atMost" :reading="live" :in-use="path?.in_use ?? false" :asked="asked" @asked="asked = true; toLine()" @off="target = null; toLine()" />
      <BudgetLines v-if="budget && figured" :result="figured" />
      <p v-if="shown && !shown.counts" class="doubt void"><b>Does not count:</b> {{ shown.why_not }}</p>
      <p v-for="d in doubts" v-else :key="d.code" class="doubt">{{ words(d.detail) }}<template v-if="d.advice">: {{ d.advice }}</template> <kbd>x</kbd> strikes it</p>
      <p v-if="shown?.speech" class="soft others">{{ shown.speech }}</p>
      <p v-if="more > 0" class="soft others">{{ more }} more {{ more === 1 ? 'doubt' : 'doubts' }}: {{ (shown?.doubts ?? []).slice(2).map((d) => words(d.detail)).join('; ') }}</p>
      <form v-if="striking" class="entry" @submit.prevent="strike">
        <input ref="why" v-model="reason" aria-label="Reason for striking" :placeholder="`strike “${striking.text}”: why?`" @keydown.esc.prevent="leaveStrike" />
        <ElButton native-type="submit" :disabled="!reason.trim()">Strike it</ElButton>
      </form>
      <form v-else class="entry" @submit.prevent="log()">
        <!-- It grows where much is typed: its beginning never scrolls away. -->
        <textarea ref="line" v-model="text" class="mono" name="entry" rows="1" aria-label="Entry line" autocomplete="off" spellcheck="false" placeholder="4.71 4.86 4.8 h swr 1.1" @keydown="command" @beforeinput="(e) => (e as InputEvent).inputType === 'insertLineBreak' && e.preventDefault()" @input="text = text.replaceAll('\n', ' ')" />
        <ElButton type="primary" native-type="submit" :disabled="!text.trim()">Log it <kbd>Enter</kbd></ElButton>
      </form>
      <p class="echo" :class="{ danger: blocked || trouble }" aria-live="polite">{{ blocked || trouble || echo }}</p>
      <p v-if="reading || (text && text === said.text)" class="others soft" data-said>{{ reading ? 'reading the meter…' : `read by ${[...new Set(saidBy.map((b) => b.name))].join(' and ')} itself; i reads it again` }}</p>
      <p v-if="onTheWay.length" class="others soft">on its way: <span v-for="f in onTheWay" :key="f.id" class="mono going">{{ f.line?.text }}</span></p>
      <KeyTimer ref="timer" :key-s="inDanger && risk ? risk.key_s : (stairs.answer.value?.key_s ?? 0)" :rest-s="inDanger && risk ? risk.rest_s : (stairs.answer.value?.rest_s ?? 0)" />
      <p v-if="settings || displayW || trusted" class="soft others">
        <template v-if="settings">set on the radio: {{ settings }} <button type="button" class="link" @click="settings = ''">no more</button></template>
        <template v-if="displayW"> its display says {{ displayW }} W</template>
        <template v-if="trusted"> next: {{ trusted.name }}, known to give {{ trusted.w }} W <button type="button" class="link" @click="trusted = null">no</button></template>
      </p>
      <p class="keys soft" data-hints><span v-for="[key, does] in hints" :key="key"><kbd>{{ key }}</kbd> {{ does }}</span><span><kbd>? ⏎</kbd> all keys</span> <a :href="`/reviews/${book.id}/figures`" target="talloak-figures">large figures</a></p>
    </section>
    <aside>
      <label class="soft">Path
        <ElSelect v-model="pathId" aria-label="Path" placeholder="choose a path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="fitsHere(p.id) ? p.name : `${p.name} (cannot count here)`" /></ElSelect>
      </label>
      <p v-if="ways.instead.value" class="doubt" data-instead>Another path for this one: through {{ ways.instead.value.name }} it cannot count: {{ ways.instead.value.why_not }}</p>
      <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :stairs="stairs.answer.value" :trouble="stairs.trouble.value" compact @taken="pathId = $event" />
      <AtRisk v-if="inDanger && !risk" :stairs="stairs.answer.value!" :typed="text.trim() !== '' && typed?.kind === 'entry'" @risk="takeRisk($event)" @taken="log(true)" />
      <p v-else-if="inDanger && risk" class="danger" data-at-risk>Briefly, at your own risk: at most {{ risk.key_s }} s, then {{ risk.rest_s }} s of rest.</p>
      <Preflight :safe="safe" :ready="ready" @confirm="confirm" />
      <p v-if="paths.length === 0" class="soft">No path with a meter is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
      <p v-if="reference" class="soft" data-reference>{{ reference.trusted!.name }}, known to give {{ watts(reference.trusted!.w) }}, read {{ watts(reference.result?.at_connector_w) }} on this meter: {{ db(reference.meter_db) }}</p>
      <PhotoStrip :about="last?.id ?? ''" empty="photograph of the meter: drop, paste or" pasted />
      <ReadingLog :key="cell.name" :readings="readings.filter(inBox)" :waiting="waiting" :more="first > 0" @say="say" @earlier="goBack" />
    </aside>
  </div>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 310px;
  gap: 32px;
}
.what {
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 20px;
  margin-top: 6px;
}
.going {
  margin-right: 16px;
  font-size: 22px;
}
.frequency {
  font-size: 88px;
  line-height: 1;
  font-weight: 500;
  letter-spacing: -0.02em;
}
.frequency input {
  font: inherit;
  letter-spacing: inherit;
  color: inherit;
  field-sizing: content;
  min-width: 120px;
  max-width: 345px;
  padding: 0;
  border: 0;
  background: transparent;
}
.frequency small {
  margin-left: 14px;
  font-size: 30px;
  letter-spacing: 0;
}
.channel {
  margin: 0;
  font-size: 26px;
}
.level {
  font-size: 56px;
  line-height: 1;
  text-align: right;
}
.level [data-scale] b {
  font-size: 34px;
}
.frequency {
  white-space: nowrap;
}
.level small {
  display: block;
  font-size: 22px;
  line-height: 1.3;
}
.result {
  display: flex;
  align-items: flex-end;
  gap: 28px;
  margin: 12px 0 2px;
}
.power {
  font-size: 128px;
  line-height: 1;
  font-weight: 600;
  letter-spacing: -0.03em;
  white-space: nowrap;
}
.power small {
  font-size: 64px;
  letter-spacing: 0;
}
.idle .power {
  color: var(--soft);
}
.beside {
  display: grid;
  font-size: 22px;
  line-height: 1.3;
  padding-bottom: 8px;
  white-space: nowrap;
}
.beside .soft {
  font-size: 22px;
}
.doubt {
  border-left: 4px solid var(--amber);
  padding: 2px 12px;
  font-size: 22px;
  line-height: 1.3;
}
.doubt.void {
  border-color: var(--slate);
}
.entry {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px;
  align-items: end;
  margin-top: 10px;
}
.entry input,
.entry textarea {
  font-size: 30px;
  line-height: 1.25;
  resize: none;
  field-sizing: content;
  width: 100%;
  border: 0;
  border-bottom: 2px solid var(--ink);
  background: transparent;
  color: var(--ink);
  padding: 2px 0;
}
.entry input:focus-visible,
.entry textarea:focus-visible {
  outline: none;
  border-bottom-width: 4px;
  margin-bottom: -2px;
}
.entry input::placeholder,
.entry textarea::placeholder {
  color: var(--soft);
  opacity: 0.55;
}
.others {
  font-size: 16px;
  margin: 0;
}
.echo {
  min-height: 32px;
  font-size: 22px;
  margin: 4px 0;
}
.keys {
  margin: 0;
  font-size: 14px;
  line-height: 1.9;
}
.keys > * {
  display: inline-block;
  margin-right: 12px;
}
aside label {
  display: block;
  font-size: 14px;
}
/* What is read from a metre away keeps its size; what stands beside it goes under it. */
@media (max-width: 1150px) {
  .stage {
    grid-template-columns: minmax(0, 1fr);
  }
  .what,
  .result {
    flex-wrap: wrap;
    gap: 4px 28px;
  }
}
@media (max-width: 820px) {
  .frequency {
    font-size: 60px;
  }
  .frequency input {
    max-width: 260px;
  }
  .level {
    font-size: 44px;
    text-align: left;
  }
  .power {
    font-size: 96px;
  }
}
aside p {
  font-size: 14px;
}
</style>
