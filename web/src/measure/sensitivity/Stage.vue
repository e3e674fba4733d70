<script setup lang="ts">
// How little the receiver needs: the generator is turned down, and what it shows typed.
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useBench } from '../../bench/bench'
import '../entry/entry.css'
import BoxPicker from '../../reviews/BoxPicker.vue'
import { typedMegahertz, useChosen, usePath, useReview, useStaircase } from '../../reviews/review'
import { db, dbm, fine, megahertz, microvolts, words, dial as dialDigits } from '../../shared/figures'
import { useLine } from '../../shared/lines'
import { remember } from '../../shared/remember'
import { api, ask, outbox, send, useAsked, type Keyed, type Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import StandingWords, { type Standing } from '../../shared/StandingWords.vue'
import LevelScale from './LevelScale.vue'

type Measured = Schemas['SensitivityMeasured']
type Draft = Schemas['SensitivityDraft']
const book = useReview()
const bench = useBench()
const bands = computed(() => book.review?.bands ?? [])
const { at, cell } = useChosen('sensitivity', () => bands.value)
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'receive'))
const pathId = usePath('sensitivity', () => paths.value)
const text = useLine(book.id, 'sensitivity', () => cell.value?.name ?? '')
const how = remember<{ by: 'sinad' | 'by-ear'; width: 'narrow' | 'wide'; emf: boolean }>('sensitivity how', { by: 'sinad', width: 'narrow', emf: false })
const trouble = ref('')
const line = ref<HTMLInputElement>()
const dial = ref<HTMLInputElement>()
const dialled = computed(() => (cell.value ? dialDigits(book.frequencyOf(cell.value, 'receive')) : ''))
const stairs = useStaircase(() => cell.value, () => pathId.value, 'receive')

const taken = useAsked('sensitivity measured', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/sensitivity', { params: { path: { id } } })))
const here = computed(() => (taken.answer.value ?? []).filter((m) => m.band === cell.value?.band.name && m.mode === cell.value?.mode))
const draft = computed<Draft>(() => ({ text: text.value, ...how.value }))

type About = [id: string, keyed: Keyed, path: string, draft: Draft]
const preview = useAsked<About, Measured>(
  'preview',
  () => (cell.value && pathId.value && text.value.trim() ? ([book.id, book.keyed(cell.value, 'receive'), pathId.value, { ...draft.value }] as const) : null),
  (id, keyed, path_id, typed) => ask(api.POST('/api/v1/reviews/{id}/measure/sensitivity/preview', { params: { path: { id } }, body: { ...keyed, path_id, draft: typed } })),
  (was, now) => JSON.stringify(was.slice(0, 3)) === JSON.stringify(now.slice(0, 3)),
)
const live = computed(() => preview.answer.value)
const last = computed(() => here.value.filter((m) => m.standing === 'in-force' && m.by === how.value.by && (m.by === 'by-ear' || m.width === how.value.width)).at(-1) ?? null)
const shown = computed(() => live.value ?? last.value)
const waiting = computed(() => outbox.facts.filter((f) => f.what === 'sensitivity' && f.review === book.id))
const said = computed(() => trouble.value || preview.trouble.value || taken.trouble.value)
const outside = computed(() => (cell.value ? book.outside(cell.value, 'receive') : ''))
const quantity = (m: { by: string; width: string }) => (m.by === 'by-ear' ? 'just heard, by ear' : `12 dB SINAD, ${m.width}`)

const toLine = () => void nextTick(() => line.value?.focus())
onMounted(toLine)
watch([text, at, how], () => (trouble.value = ''), { deep: true })

function retune() {
  const hz = typedMegahertz(dial.value?.value ?? '')
  if (hz == null) trouble.value = 'Give the frequency in MHz, such as 145.500.'
  else if (cell.value) book.measureAt(cell.value, hz, 'receive')
}
function command(e: KeyboardEvent) {
  // A frequency may follow this letter: alone on the line it asks for one.
  if (e.key === 'Enter' && text.value.trim().toLowerCase() === 'f') {
    e.preventDefault()
    e.stopPropagation()
    text.value = ''
    dial.value?.select()
    return
  }
  if (text.value.trim() !== '' || e.ctrlKey || e.metaKey || e.altKey) return
  const actions: Record<string, () => void> = {
    e: () => (how.value.by = how.value.by === 'sinad' ? 'by-ear' : 'sinad'),
    w: () => (how.value.width = how.value.width === 'narrow' ? 'wide' : 'narrow'),
    p: () => (how.value.emf = !how.value.emf),
    ArrowDown: () => (at.value = (at.value + 1) % bands.value.length),
    ArrowUp: () => (at.value = (at.value + bands.value.length - 1) % bands.value.length),
  }
  const act = actions[e.key]
  if (!act) return
  e.preventDefault()
  act()
}

async function log() {
  const typed = text.value
  const c = cell.value
  if (!c || !typed.trim()) return
  if (preview.refused.value) {
    trouble.value = preview.trouble.value
    return
  }
  const keyed = book.keyed(c)
  const body = { ...keyed, path_id: pathId.value, wiring: stairs.answer.value?.wiring ?? '', draft: { ...draft.value } }
  const outcome = send<Measured>({
    what: 'sensitivity', review: book.id, label: `${c.name} ${typed}`, path: `/api/v1/reviews/${book.id}/measure/sensitivity`, stays: true, line: { kind: 'sensitivity', box: c.name, text: typed }, json: (id) => ({ id, ...body }),
  })
  text.value = ''
  toLine()
  const got = await outcome
  if (!got.ok && got.refusal.stale) void stairs.again()
}
async function say(target_id: string, standing: Standing, reason: string) {
  await send({ what: 'standing', review: book.id, label: `${standing}: ${reason}`, about: target_id, stays: true, path: `/api/v1/reviews/${book.id}/standings`, json: (id) => ({ id, target_id, standing, reason }) })
  toLine()
}
</script>

<template>
  <p v-if="bands.length === 0" class="soft">Nothing to listen on yet: <RouterLink :to="`/reviews/${book.id}/radio`">type a claim</RouterLink> such as <span class="mono">2m 5/1</span>, and <span class="mono">2m sensitivity 0.25uV</span> for what the receiver is said to need.</p>
  <div v-else-if="cell" class="stage one-figure">
    <section>
      <BoxPicker v-model="at" :cells="bands" :done="(c) => (taken.answer.value ?? []).some((m) => m.counts && m.band === c.band.name && m.mode === c.mode)"><span class="soft"><kbd>↑</kbd> <kbd>↓</kbd></span></BoxPicker>
      <div class="what">
        <label class="frequency"><input ref="dial" :value="dialled" name="frequency" aria-label="Frequency, MHz" inputmode="decimal" @change="retune" @keydown.enter.prevent="line?.focus()" /><small>MHz</small></label>
        <div class="how">
          <b>{{ how.by === 'by-ear' ? 'by ear' : '12 dB SINAD' }}</b>
          <small>{{ how.by === 'by-ear' ? 'a quantity of its own' : how.width }}, volts as {{ how.emf ? 'EMF' : 'PD' }}</small>
        </div>
      </div>
      <p v-if="outside" class="doubt" data-outside>{{ megahertz(book.frequencyOf(cell, 'receive')) }} lies outside {{ cell.band.name }}: kept at its own frequency, held against no claim.</p>
      <div class="result" :class="{ idle: !live }">
        <div class="figure" data-testid="level">{{ shown?.result?.at_connector_uv == null ? '–' : microvolts(shown.result.at_connector_uv).replace(' µV', '') }} <small>µV</small></div>
        <div class="beside">
          <template v-if="shown?.result?.at_connector_dbm != null">
            <span>{{ dbm(shown.result.at_connector_dbm) }} ±{{ fine(shown.result.expanded_uncertainty_db ?? 0) }}</span>
            <span class="soft">at the connector, k = 2, S {{ shown.result.s_units?.toFixed(1) }}</span>
            <span v-if="shown.result.claim_delta_db != null"><RulingShape :verdict="shown.result.verdict ?? 'no-claim'" :size="20" /> {{ db(Math.abs(shown.result.claim_delta_db)).replace('+', '') }} {{ shown.result.claim_delta_db > 0 ? 'over' : 'under' }} the {{ microvolts(shown.claimed_uv!) }} claimed</span>
            <span v-else class="soft">{{ shown.by === 'by-ear' ? 'held against no claim' : 'nothing claimed' }}</span>
          </template>
          <span v-if="shown && !live" class="soft">last logged</span>
        </div>
      </div>
      <LevelScale v-if="shown?.result?.at_connector_dbm != null" :measured="shown" />
      <p v-if="shown && !shown.counts" class="doubt void"><b>Does not count:</b> {{ words(shown.why_not) }}</p>
      <form class="entry" @submit.prevent="log">
        <input ref="line" v-model="text" class="mono" name="entry" aria-label="Entry line" autocomplete="off" spellcheck="false" placeholder="0.22uV" @keydown="command" />
        <ElButton type="primary" native-type="submit" :disabled="!text.trim() || !pathId">Log it <kbd>Enter</kbd></ElButton>
      </form>
      <p class="echo" :class="{ danger: said }" aria-live="polite">{{ said || (live ? `the generator shows ${live.text}${live.emf ? ' EMF' : ''}, ${dbm(live.result?.generator_dbm)}; ${quantity(live)}` : '') }}</p>
      <p class="keys soft"><kbd>e</kbd> by ear or SINAD <kbd>w</kbd> narrow or wide <kbd>p</kbd> EMF or PD <kbd>f ⏎</kbd> frequency <kbd>?</kbd> then a remark<br /><span class="mono">-121dBm</span> does as well as microvolts</p>
    </section>
    <aside>
      <label class="soft">Path
        <ElSelect v-model="pathId" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect>
      </label>
      <p v-if="paths.length === 0" class="soft">No path from a generator is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>, from the radio’s connector through pads to the generator at its end.</p>
      <p v-if="stairs.answer.value" class="soft">Loss {{ stairs.answer.value.multiples.total_loss_db[0] == null ? 'not known here' : fine(stairs.answer.value.multiples.total_loss_db[0]!) }} between generator and radio.</p>
      <p class="danger">Lock transmitting before the generator is connected: keying into it destroys it. The radio’s own and the generator’s ratings come first.</p>
      <div class="log">
        <h3>Levels of this band</h3>
        <p v-for="w in waiting" :key="w.id" class="soft" data-waiting><span class="mono">{{ w.label }}</span> {{ w.state === 'aside' ? 'not taken' : 'on its way' }}</p>
        <p v-if="here.length === 0" class="soft">None yet. Turn the generator down until the SINAD meter shows 12 dB, and type what it shows. What is only just heard, by ear, is another quantity.</p>
        <ol reversed>
          <li v-for="m in [...here].reverse()" :key="m.id" :class="{ out: !m.counts }">
            <b>{{ m.result?.at_connector_uv == null ? 'void' : microvolts(m.result.at_connector_uv) }}</b> <span class="mono">{{ m.text }}</span>
            <p class="soft">{{ quantity(m) }}{{ m.outside ? `; ${megahertz(m.frequency_hz)}, outside the band claimed` : '' }}<template v-if="!m.counts">; {{ m.why_not }}</template></p>
            <StandingWords :key="m.standing" :about="m.id" :standing="m.standing" @say="(standing, reason) => say(m.id, standing, reason)" />
          </li>
        </ol>
        <a v-if="here.length" :href="`/api/v1/reviews/${book.id}/measure/sensitivity/export`" download>all of it, CSV</a>
      </div>
    </aside>
  </div>
</template>
