<script setup lang="ts">
// The key-up screen: read from a metre away, driven from the one entry line.
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useBench } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import { claimed, db, megahertz, percent, watts, words } from '../../shared/figures'
import { remember } from '../../shared/remember'
import { api, ask, outbox, send, useAsked, type Cell, type Keyed, type Reading } from '../../shared/server'
import { type Standing } from '../../shared/StandingWords.vue'
import BoxPicker from '../../reviews/BoxPicker.vue'
import Preflight from '../../reviews/Preflight.vue'
import { typedMegahertz, useChosen, usePath, useReview, useStaircase } from '../../reviews/review'
import { useSteps } from '../../reviews/sheet/steps'
import KeyTimer from './KeyTimer.vue'
import PowerGauge from './PowerGauge.vue'
import ReadingLog from './ReadingLog.vue'

const book = useReview()
const review = computed(() => book.review!)
const bench = useBench()
const { at, cell } = useChosen('power', () => book.cells)
const paths = computed(() => bench.paths.filter((p) => p.serves.includes('power')))
const pathId = usePath('power', () => paths.value)
const text = remember(`line ${book.id}`, '')
const blocked = ref('') // why Enter logged nothing; a preview does not clear it
const striking = ref<Reading | null>(null) // the very reading that was shown when the key was pressed
const reason = ref('')
const timer = ref<InstanceType<typeof KeyTimer>>()
const line = ref<HTMLInputElement>()
const why = ref<HTMLInputElement>()
const dial = ref<HTMLInputElement>()
const dialled = computed(() => (cell.value ? (book.frequencyOf(cell.value) / 1e6).toFixed(3) : ''))

const taken = useAsked('power measured', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/power', { params: { path: { id } } })))
const readings = computed(() => taken.answer.value ?? [])
const stairs = useStaircase(() => cell.value, () => pathId.value)
const safe = computed(() => stairs.answer.value?.safe ?? null) // null while nobody knows
const ready = computed(() => book.isChecked(stairs.answer.value?.wiring))

// What is typed, worked out: of this line, in this box, through this path, and of no other.
type About = [id: string, keyed: Keyed, path: string, text: string]
const preview = useAsked<About, Reading>(
  'preview',
  () => (cell.value && pathId.value && text.value.trim() && !striking.value ? ([book.id, book.keyed(cell.value), pathId.value, text.value] as const) : null),
  (id, keyed, path_id, typed) => ask(api.POST('/api/v1/reviews/{id}/measure/power/preview', { params: { path: { id } }, body: { ...keyed, path_id, draft: { text: typed } } })),
  (was, now) => JSON.stringify(was.slice(0, 3)) === JSON.stringify(now.slice(0, 3)),
)
const live = computed(() => preview.answer.value)
const trouble = computed(() => preview.trouble.value || taken.trouble.value || bench.trouble)

const isOf = (r: { band: string; level: string; mode: string }, c: Cell) => r.band === c.band.name && r.level === c.level && r.mode === c.mode
const inBox = (r: Reading) => cell.value != null && isOf(r, cell.value)
const isDone = (c: Cell) => readings.value.some((r) => r.counts && !r.outside && isOf(r, c))
const last = computed(() => readings.value.filter((r) => inBox(r) && (r.standing === 'in-force' || r.standing === 'explained')).at(-1) ?? null)
const shown = computed(() => live.value ?? last.value)
const waiting = computed(() => outbox.facts.filter((f) => f.what === 'power' && f.review === book.id))

// The quantity claimed: the peak where that is claimed, or alone was read.
const figured = computed(() => (cell.value?.pep || !shown.value?.result ? shown.value?.peak ?? shown.value?.result : shown.value.result) ?? null)
const isPeak = computed(() => figured.value != null && figured.value === shown.value?.peak)
const figure = computed(() => (figured.value ? watts(figured.value.at_connector_w).split(' ') : ['–', '']))

const toLine = () => void nextTick(() => line.value?.focus())
onMounted(toLine)
watch([text, at, pathId, dialled], () => (blocked.value = ''))
watch(pathId, toLine)

function confirm() {
  const now = stairs.answer.value
  if (!now?.safe) return
  book.check(now.wiring)
  blocked.value = ''
  toLine()
}

async function log() {
  const typed = text.value
  const c = cell.value
  if (!c || typed.trim() === '') return
  const wiring = stairs.answer.value?.wiring
  if (safe.value === null) blocked.value = stairs.trouble.value || 'The path is still being looked at. What you typed stays.'
  else if (!safe.value) blocked.value = 'This path is in danger: change it before keying. What you typed stays.'
  else if (!ready.value) blocked.value = 'Go through “before keying” first; what you typed stays.'
  else if (waiting.value.some((f) => f.label === labelOf(c, typed))) blocked.value = 'This very line is on its way already.'
  else blocked.value = ''
  if (blocked.value) return
  const keyed = book.keyed(c)
  const got = await send<Reading>({
    what: 'power', review: book.id, label: labelOf(c, typed), path: `/api/v1/reviews/${book.id}/measure/power`,
    json: (id) => ({ id, ...keyed, path_id: pathId.value, wiring, draft: { text: typed } }),
  })
  if (!got.ok) {
    blocked.value = got.refusal.message
    if (!got.refusal.stale) blocked.value = got.refusal.words
    else void stairs.again()
    return
  }
  // Only what was logged leaves the line: what was typed since stays.
  if (text.value === typed) text.value = ''
  toLine()
}
const labelOf = (c: Cell, typed: string) => `${c.name} ${typed}`

async function say(target_id: string, standing: Standing, words: string) {
  const got = await send({
    what: 'standing', review: book.id, label: `${standing}: ${words}`, path: `/api/v1/reviews/${book.id}/standings`,
    json: (id) => ({ id, target_id, standing, reason: words }),
  })
  if (!got.ok) blocked.value = got.refusal.words
}

function strike() {
  if (!striking.value || reason.value.trim() === '') return
  void say(striking.value.id, 'struck', reason.value.trim())
  leaveStrike()
}
function leaveStrike() {
  striking.value = null
  reason.value = ''
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

/** A letter on the empty line is a command; everything else is an entry. */
function command(e: KeyboardEvent) {
  if (text.value.trim() !== '' || e.ctrlKey || e.metaKey || e.altKey) return
  const actions: Record<string, () => void> = {
    ' ': () => timer.value?.toggle(),
    m: () => {
      const i = paths.value.findIndex((p) => p.id === pathId.value)
      pathId.value = paths.value[(i + 1) % paths.value.length]?.id ?? ''
    },
    f: () => dial.value?.select(),
    c: confirm,
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

const echo = computed(() => {
  const e = live.value?.entry
  if (!e) return ''
  const parts = e.readings.length ? [e.readings.map((r) => `${r.value}`).join(', ') + ` ${live.value!.unit}`] : []
  if (e.level) parts.push(`radio shows ${e.level}`)
  if (e.swr != null) parts.push(`SWR ${e.swr}`)
  if (e.reflected_w != null) parts.push(`reflected ${watts(e.reflected_w)}`)
  if (e.peak_w != null) parts.push(`peak ${watts(e.peak_w)}`)
  if (e.supply_v != null) parts.push(`${e.supply_v} V`)
  if (e.supply_a != null) parts.push(`${e.supply_a} A`)
  if (e.frequency_hz != null) parts.push(megahertz(e.frequency_hz))
  if (e.remark) parts.push(`remark: ${e.remark}`)
  return parts.join('  ·  ')
})

const doubts = computed(() => (shown.value?.doubts ?? []).slice(0, 2))
const more = computed(() => (shown.value?.doubts ?? []).length - doubts.value.length)
// Said as long as it is so, whatever else is.
const outside = computed(() => (cell.value ? book.outside(cell.value) : ''))
</script>

<template>
  <p v-if="book.cells.length === 0" class="soft">
    Nothing to key yet: <RouterLink :to="`/reviews/${review.id}/radio`">type a claim</RouterLink> such as <span class="mono">2m 5/1</span> and its levels appear here.
  </p>
  <div v-else-if="cell" class="stage">
    <section class="keyup">
      <BoxPicker v-model="at" :cells="book.cells" :done="isDone"><span class="soft"><kbd>↑</kbd> <kbd>↓</kbd> <template v-if="step" ><b data-step>step {{ step.n }}</b> of {{ steps.going.value.length }} <button type="button" class="link" @click="steps.leave()">leave the sheet</button></template></span></BoxPicker>
      <div class="what">
        <div>
          <label class="frequency"><input ref="dial" :value="dialled" name="frequency" aria-label="Frequency, MHz" inputmode="decimal" @change="retune" @keydown.enter.prevent="line?.focus()" /><small>MHz</small></label>
        </div>
        <div class="level">
          {{ cell.level }}
          <small>{{ cell.mode }}, {{ cell.claimed_w > 0 ? 'claimed ' : '' }}{{ claimed(cell) }}</small>
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
          <span v-if="shown && !live" class="soft">last logged</span>
        </div>
      </div>
      <PowerGauge v-if="cell.claimed_w > 0" :cell="cell" :reading="shown" :rules="review.rules" />
      <p v-if="shown && !shown.counts" class="doubt void"><b>Does not count:</b> {{ shown.why_not }}</p>
      <p v-for="d in doubts" v-else :key="d.code" class="doubt">{{ words(d.detail) }}<template v-if="d.advice">: {{ d.advice }}</template> <kbd>x</kbd> strikes it</p>
      <p v-if="more > 0" class="soft others">{{ more }} more {{ more === 1 ? 'doubt' : 'doubts' }}: {{ (shown?.doubts ?? []).slice(2).map((d) => words(d.detail)).join('; ') }}</p>
      <form v-if="striking" class="entry" @submit.prevent="strike">
        <input ref="why" v-model="reason" aria-label="Reason for striking" :placeholder="`strike “${striking.text}”: why?`" @keydown.esc.prevent="leaveStrike" />
        <ElButton native-type="submit" :disabled="!reason.trim()">Strike it</ElButton>
      </form>
      <form v-else class="entry" @submit.prevent="log">
        <input ref="line" v-model="text" class="mono" name="entry" aria-label="Entry line" autocomplete="off" spellcheck="false" placeholder="4.71 4.86 4.8 h swr 1.1" @keydown="command" />
        <ElButton type="primary" native-type="submit" :disabled="!text.trim()">Log it <kbd>Enter</kbd></ElButton>
      </form>
      <p class="echo" :class="{ danger: blocked || trouble }" aria-live="polite">{{ blocked || trouble || echo }}</p>
      <KeyTimer ref="timer" :key-s="stairs.answer.value?.key_s ?? 0" :rest-s="stairs.answer.value?.rest_s ?? 0" />
      <p class="keys soft"><kbd>c</kbd> checked <kbd>Space</kbd> timer <kbd>f</kbd> frequency <kbd>m</kbd> other meter <kbd>x</kbd> strike the last <kbd>=</kbd> same again <kbd>?</kbd> then a remark</p>
    </section>
    <aside>
      <label class="soft">Path
        <ElSelect v-model="pathId" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect>
      </label>
      <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :stairs="stairs.answer.value" :trouble="stairs.trouble.value" compact @taken="pathId = $event" />
      <Preflight :safe="safe" :ready="ready" @confirm="confirm" />
      <p v-if="paths.length === 0" class="soft">No path with a meter is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
      <ReadingLog :readings="readings.filter(inBox)" :waiting="waiting" @say="say" />
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
  width: 345px;
  padding: 0;
  border: 0;
  background: transparent;
}
.frequency small {
  font-size: 30px;
  letter-spacing: 0;
}
.level {
  font-size: 56px;
  line-height: 1;
  text-align: right;
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
.entry input {
  font-size: 30px;
  width: 100%;
  border: 0;
  border-bottom: 2px solid var(--ink);
  background: transparent;
  color: var(--ink);
  padding: 2px 0;
}
.entry input:focus-visible {
  outline: none;
  border-bottom-width: 4px;
  margin-bottom: -2px;
}
.entry input::placeholder {
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
  font-size: 14px;
  line-height: 1.9;
}
.keys kbd:not(:first-child) {
  margin-left: 10px;
}
aside label {
  display: block;
  font-size: 14px;
}
aside p {
  font-size: 14px;
}
</style>
