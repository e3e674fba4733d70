<script setup lang="ts">
// The analyzer at the end of the path, swept by its socket: dialled in and read back, its trace as it
// comes, and taken whole or not at all.
import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onDeactivated, ref, watch } from 'vue'
import { untilAnswered } from '../../bench/bench'
import { dbm, megahertz, watts, words } from '../../shared/figures'
import { useInstruments } from '../../shared/instruments'
import { api, ask, NoAnswer, Refusal, wordsOf, type Keyed, type Schemas } from '../../shared/server'

type View = Omit<Schemas['SweepingView'], 'view'> & { view: Schemas['EmissionsSweepView'] | null }
const props = defineProps<{ review: string; keyed: Keyed; pathId: string; wiring: string; modulated: string; name: string; ready: boolean; carrier: number }>()
const emit = defineEmits<{ taken: [file: File, draft: object] }>()
const known = useInstruments()
const now = ref<View | null>(null)
const trouble = ref('')
const asking = ref(false)
const section = ref<HTMLElement>()
const from = ref('')
const to = ref('')
const running = computed(() => now.value != null && ['dialling', 'sweeping'].includes(now.value.state))
const settled = computed(() => now.value != null && now.value.held_s >= now.value.settle_s)

async function begin(confirmed = false) {
  if (running.value || asking.value) return
  trouble.value = ''
  if (!props.ready) {
    trouble.value = 'Go through “before keying” first, then the instrument.'
    return
  }
  const hz = (text: string) => Math.round(Number(text.trim().replace(',', '.')) * 1e6)
  const odd = [from.value, to.value].find((text) => !(hz(text) >= 0))
  if (odd !== undefined) {
    trouble.value = `“${odd}” is no frequency: give MHz, such as 1000, or nothing for the range as told.`
    return
  }
  asking.value = true
  section.value?.scrollIntoView({ block: 'start' })
  const body = { ...props.keyed, path_id: props.pathId, wiring: props.wiring, modulated: props.modulated as '' | 'bare' | 'modulated', start_hz: hz(from.value), stop_hz: hz(to.value), confirmed }
  try {
    now.value = (await known.connect((aware) => ask(api.POST('/api/v1/reviews/{id}/sweeping', { params: { path: { id: props.review }, query: { aware } }, body })))) as View
    tick.resume()
  } catch (e) {
    trouble.value = wordsOf(e)
  } finally {
    asking.value = false
  }
}
const tick = useIntervalFn(look, 300, { immediate: false })
let looking = false
/** What to say of a sweep that cannot be looked at. */
function lost(e: unknown): string {
  if (e instanceof NoAnswer) return 'The server does not answer: nothing of this sweep is kept until it does, and you take it.'
  return e instanceof Refusal && e.status === 404 ? 'The server was started anew and knows nothing of this sweep: let it sweep again.' : wordsOf(e)
}
async function look() {
  const id = now.value?.id
  if (!id || looking) return
  looking = true
  try {
    const got = (await ask(api.GET('/api/v1/sweeping/{id}', { params: { path: { id } } }))) as View
    if (now.value?.id === id) now.value = got
    trouble.value = ''
    if (!['dialling', 'sweeping'].includes(got.state)) tick.pause()
  } catch (e) {
    trouble.value = lost(e)
    if (e instanceof NoAnswer) return // it sweeps on, and is looked at again
    tick.pause()
    now.value = null
  } finally {
    looking = false
  }
}
let taking = false // one trace is taken once, however often Enter is pressed
async function take() {
  const id = now.value?.id
  if (!id || taking || now.value?.sweeps === 0) return
  taking = true
  try {
    const got = await untilAnswered(() => ask(api.POST('/api/v1/sweeping/{id}/take', { params: { path: { id } } })))
    tick.pause()
    now.value = null
    emit('taken', new File([got.csv], got.name, { type: 'text/csv' }), got.draft as object)
  } catch (e) {
    trouble.value = lost(e)
  } finally {
    taking = false
  }
}
async function leave() {
  const id = now.value?.id
  tick.pause()
  now.value = null
  if (id) await api.DELETE('/api/v1/sweeping/{id}', { params: { path: { id } } }).catch(() => undefined)
}
watch(() => [props.pathId, JSON.stringify(props.keyed)], () => void leave())
// Who looks at something else holds no instrument.
onDeactivated(() => void leave())
onBeforeUnmount(() => void leave())
/** Enter takes it, Escape lets it go, from wherever one is on the screen; on a button Enter is that button's. */
function key(e: KeyboardEvent): boolean {
  if (e.key === 'Enter' && e.target instanceof Element && e.target.closest('button, a, summary, [role=button]')) return false
  if (!now.value || !['sweeping', 'confirm'].includes(now.value.state)) return false
  if (e.key === 'Enter') void (now.value.state === 'confirm' ? begin(true) : take())
  else if (e.key === 'Escape') void leave()
  else return false
  return true
}
defineExpose({ begin, key, running })

const W = 820
const H = 220
const shown = computed(() => now.value?.view?.picture ?? [])
const start = computed(() => now.value?.view?.start_hz ?? 0)
const stop = computed(() => now.value?.view?.stop_hz ?? 1)
const x = (f: number) => 46 + ((f - start.value) / (stop.value - start.value)) * (W - 60)
const top = computed(() => Math.max(...shown.value.map((b) => b.high_dbm ?? -200)) + 6)
const bottom = computed(() => Math.min(...shown.value.map((b) => b.low_dbm ?? b.noise_dbm ?? 0)) - 4)
const y = (l: number) => 14 + ((top.value - l) / (top.value - bottom.value)) * (H - 44)
const trace = computed(() => shown.value.filter((b) => b.high_dbm != null).map((b) => `${x(b.frequency_hz).toFixed(1)},${y(b.high_dbm!).toFixed(1)}`).join(' '))
const multiples = computed(() => Array.from({ length: 12 }, (_, i) => (i + 1) * props.carrier).filter((f) => f >= start.value && f <= stop.value))
</script>

<template>
  <section ref="section" class="by" data-sweeping>
    <p class="line">
      <ElButton v-if="!running && now?.state !== 'confirm'" size="small" name="sweep-by" :disabled="asking || known.off" @click="begin()">Let {{ name }} sweep <kbd>Esc</kbd> <kbd>i</kbd></ElButton>
      <template v-if="!now"><label class="soft">from <input v-model="from" name="sweep-from" inputmode="decimal" placeholder="as told" /> to <input v-model="to" name="sweep-to" inputmode="decimal" placeholder="as told" /> MHz</label><span class="soft">it is dialled in as told and read back; you key, and take the trace when it has settled</span></template>
      <span v-else-if="now.state === 'dialling'" class="soft">dialling in…</span>
      <template v-else-if="now.state === 'sweeping'"><b>{{ now.sweeps }} {{ now.sweeps === 1 ? 'sweep' : 'sweeps' }}</b> <span>{{ settled ? `settled, ${Math.round(now.held_s)} s held` : `${Math.ceil(now.settle_s - now.held_s)} s more to settle` }}</span> <ElButton size="small" type="primary" name="take-trace" :disabled="now.sweeps === 0 || now.overloaded" @click="take">Take it <kbd>Enter</kbd></ElButton> <button type="button" class="link" @click="leave">let it go</button></template>
    </p>
    <div v-if="now?.state === 'confirm'" class="hurts" role="alert" data-hurts>
      <p><b>Before it is sent:</b> {{ now.hurts.join('; ') }}. Is what arrives at the input as low as the staircase says, with nothing keyed now?</p>
      <ElButton size="small" name="confirm-hurts" @click="begin(true)">It may be sent <kbd>Enter</kbd></ElButton> <button type="button" class="link" @click="leave">no</button>
    </div>
    <p v-if="trouble || now?.says" class="danger" role="alert">{{ trouble || words(now!.says) }}</p>
    <template v-if="now && now.state !== 'confirm'">
      <p v-if="now.dialled.length" class="dialled"><span v-for="d in now.dialled" :key="d.what" :class="{ danger: d.wanted && d.wanted !== d.told && d.what !== 'Points' }"><span class="soft">{{ d.what }}</span> {{ words(d.told) }}</span></p>
      <svg v-if="trace" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`The trace as it comes, ${megahertz(start)} to ${megahertz(stop)}${now.view?.carrier_dbm == null ? '' : `, carrier ${dbm(now.view.carrier_dbm)} at the connector`}`" data-live>
        <line v-for="f in multiples" :key="f" class="at" :x1="x(f)" :x2="x(f)" :y1="14" :y2="H - 30" />
        <text v-for="(f, n) in multiples" :key="`t${f}`" :x="x(f)" :y="H - 14" text-anchor="middle">{{ n === 0 ? megahertz(f) : `${Math.round(f / carrier)} f` }}</text>
        <text x="42" :y="y(top - 6) + 4" text-anchor="end">{{ Math.round(top - 6) }}</text>
        <text x="42" :y="y(bottom + 4) + 4" text-anchor="end">{{ words(String(Math.round(bottom + 4))) }}</text>
        <text x="4" y="10">dBm at the connector</text>
        <polyline class="trace" :points="trace" />
      </svg>
      <p v-if="now.view?.carrier_dbm != null" class="carrier" :class="{ danger: now.view.doubtful }"><b>{{ watts(now.view.carrier_w) }}</b> carrier {{ dbm(now.view.carrier_dbm) }} at the connector, {{ dbm(now.view.input_dbm) }} at the input<template v-if="now.view.doubtful">: {{ words(now.view.void) }}</template></p>
    </template>
  </section>
</template>

<style scoped>
.by {
  border-top: 1px solid var(--hair);
  margin: 10px 0;
  padding-top: 8px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: baseline;
  margin: 4px 0;
}
.line input {
  width: 76px;
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--hair);
}
.hurts {
  border-left: 4px solid var(--rust);
  padding: 4px 12px;
}
.dialled {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  margin: 4px 0;
  font-size: 14px;
}
svg {
  width: 100%;
  height: auto;
}
.trace {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.at {
  stroke: var(--hair);
}
text {
  font-size: 12px;
  fill: var(--soft);
}
.carrier b {
  font-size: 34px;
  font-weight: 600;
  margin-right: 12px;
}
.carrier {
  margin: 2px 0;
}
</style>
