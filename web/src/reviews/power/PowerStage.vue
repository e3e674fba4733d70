<script setup lang="ts">
// The key-up screen: read from a metre away, driven from the one entry line.
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useBench, type Asked } from '../../bench/bench'
import PathStaircase from '../../bench/paths/PathStaircase.vue'
import { api, ask, newKey, type Cell, type Reading, type Refusal } from '../../shared/api/client'
import { claimed, db, megahertz, percent, watts, words } from '../../shared/figures'
import { type Standing } from '../../shared/StandingWords.vue'
import BoxPicker from '../BoxPicker.vue'
import Preflight from '../Preflight.vue'
import { typedMegahertz, useReview } from '../review'
import KeyTimer from './KeyTimer.vue'
import PowerGauge from './PowerGauge.vue'
import ReadingLog from './ReadingLog.vue'

const book = useReview()
const review = computed(() => book.review!)
const bench = useBench()
const readings = ref<Reading[]>([])
const at = ref(0)
const pathId = ref('')
const text = ref('')
const live = ref<Reading | null>(null)
const trouble = ref('')
const blocked = ref('') // why Enter logged nothing; a preview does not clear it
const striking = ref(false)
const reason = ref('')
const safe = ref(false)
const ready = ref(new Set<string>())
const atMost = ref<number | null>(null)
const busy = ref(false)
const timer = ref<InstanceType<typeof KeyTimer>>()
const line = ref<HTMLInputElement>()
const dial = ref<HTMLInputElement>()
const dialled = computed(() => (cell.value ? (book.frequencyOf(cell.value) / 1e6).toFixed(3) : ''))
let key = newKey()

const cell = computed(() => book.cells[at.value])
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'power'))
const highestRead = computed(() => Math.max(0, ...readings.value.filter((r) => r.mode === cell.value?.mode).map((r) => r.result?.at_connector_w ?? r.peak?.at_connector_w ?? 0)))
// What is keyed into the path, with the amps read at each level.
const asked = computed<Asked>(() => book.wiring(cell.value!, highestRead.value, (c) => readings.value.filter((r) => isOf(r, c)).at(-1)?.entry.supply_a ?? undefined))
const mayKey = computed(() => safe.value && ready.value.has(pathId.value))
const last = computed(() => readings.value.filter((r) => inBox(r) && (r.standing === 'in-force' || r.standing === 'explained')).at(-1) ?? null)
const shown = computed(() => live.value ?? last.value)

// The quantity claimed: the peak where that is claimed, or alone was read.
const figured = computed(() => (cell.value?.pep || !shown.value?.result ? shown.value?.peak ?? shown.value?.result : shown.value.result) ?? null)
const isPeak = computed(() => figured.value != null && figured.value === shown.value?.peak)
const figure = computed(() => (figured.value ? watts(figured.value.at_connector_w).split(' ') : ['–']))

const isOf = (r: Reading, c: Cell) => r.band === c.band.name && r.level === c.level && r.mode === c.mode
const inBox = (r: Reading) => cell.value != null && isOf(r, cell.value)

const isDone = (c: Cell) => readings.value.some((r) => r.counts && !r.outside && isOf(r, c))

onMounted(async () => {
  try {
    await bench.load()
    trouble.value = bench.trouble
    pathId.value = paths.value[0]?.id ?? ''
    await reload()
  } catch (e) {
    trouble.value = (e as Refusal).message
  }
})

async function reload() {
  readings.value = await ask(api.GET('/api/v1/reviews/{id}/readings', { params: { path: { id: review.value.id } } }))
}

function body() {
  return { ...book.keyed(cell.value!), text: text.value, path_id: pathId.value }
}

const preview = useDebounceFn(async () => {
  const asked = text.value
  if (!asked.trim() || !cell.value || striking.value) return
  try {
    const got = await ask(api.POST('/api/v1/reviews/{id}/readings/preview', { params: { path: { id: review.value.id } }, body: body() }))
    if (text.value === asked) [live.value, trouble.value] = [got, '']
  } catch (e) {
    if (text.value === asked) [live.value, trouble.value] = [null, (e as Refusal).words]
  }
}, 70)

watch([text, at, pathId, dialled], () => {
  trouble.value = ''
  blocked.value = ''
  if (text.value.trim() === '') live.value = null
  void preview()
})

function confirm() {
  ready.value.add(pathId.value)
  blocked.value = ''
}

async function log() {
  if (!cell.value || busy.value || text.value.trim() === '') return
  if (!mayKey.value) {
    blocked.value = safe.value ? 'Go through “before keying” first; what you typed stays.' : 'This path is in danger: change it before keying. What you typed stays.'
    return
  }
  busy.value = true
  try {
    const got = await ask(api.POST('/api/v1/reviews/{id}/readings', { params: { path: { id: review.value.id } }, body: { ...body(), id: key } }))
    key = newKey()
    text.value = ''
    live.value = null
    await reload()
    if (got.counts) await book.load(review.value.id)
  } catch (e) {
    trouble.value = (e as Refusal).words
  } finally {
    busy.value = false
  }
}

async function say(target_id: string, standing: Standing, why: string) {
  try {
    const word = { id: newKey(), target: 'reading' as const, target_id, standing, reason: why }
    await ask(api.POST('/api/v1/reviews/{id}/standings', { params: { path: { id: review.value.id } }, body: word }))
    await reload()
  } catch (e) {
    trouble.value = (e as Refusal).words
  }
}

async function strike() {
  if (!last.value || reason.value.trim() === '') return
  await say(last.value.id, 'struck', reason.value.trim())
  striking.value = false
  reason.value = ''
  void nextTick(() => line.value?.focus())
}

/** Another frequency of the band; what is none stays to be put right. */
function retune() {
  const hz = typedMegahertz(dial.value?.value ?? '')
  if (hz == null) trouble.value = 'Give the frequency in MHz, such as 145.500.'
  else if (cell.value) {
    book.measureAt(cell.value, hz)
    trouble.value = ''
  }
}

function move(by: number) {
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
    x: () => {
      if (last.value) striking.value = true
    },
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
      <BoxPicker v-model="at" :cells="book.cells" :done="isDone"><span class="soft"><kbd>↑</kbd> <kbd>↓</kbd></span></BoxPicker>
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
        <input v-model="reason" aria-label="Reason for striking" placeholder="strike the last reading: why?" autofocus @keydown.esc="striking = false" />
        <ElButton native-type="submit" :disabled="!reason.trim()">Strike it</ElButton>
      </form>
      <form v-else class="entry" @submit.prevent="log">
        <input ref="line" v-model="text" class="mono" name="entry" aria-label="Entry line" autocomplete="off" spellcheck="false" placeholder="4.71 4.86 4.8 h swr 1.1" autofocus @keydown="command" />
        <ElButton type="primary" native-type="submit" :disabled="!text.trim() || busy">Log it <kbd>Enter</kbd></ElButton>
      </form>
      <p class="echo" :class="{ danger: blocked || trouble }" aria-live="polite">{{ blocked || trouble || echo }}</p>
      <KeyTimer ref="timer" :at-most="atMost" />
      <p class="keys soft"><kbd>Space</kbd> timer <kbd>f</kbd> frequency <kbd>m</kbd> other meter <kbd>x</kbd> strike the last <kbd>=</kbd> same again <kbd>?</kbd> then a remark</p>
    </section>
    <aside>
      <label class="soft">Path
        <ElSelect v-model="pathId" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect>
      </label>
      <PathStaircase v-if="pathId" :key="pathId" :path-id="pathId" :asked="asked" compact @safe="safe = $event" @at-most="atMost = $event" @taken="pathId = $event" />
      <Preflight :safe="safe" :ready="ready.has(pathId)" @confirm="confirm" />
      <p v-if="paths.length === 0" class="soft">No path with a meter is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>.</p>
      <ReadingLog :readings="readings.filter(inBox)" @say="say" />
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
}
.keys kbd {
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
