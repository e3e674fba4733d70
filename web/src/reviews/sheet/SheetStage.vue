<script setup lang="ts">
// What will be keyed, in which order: chosen on a matrix, laid out along the afternoon.
import { useHelp } from '../../shared/help'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { decimal } from '../../shared/numbers'
import { dial, inMode, megahertz } from '../../shared/figures'
import type { Schemas } from '../../shared/server'
import { useChosenBox } from '../../shared/lines'
import { isField } from '../../shared/typing'
import { useReview, type Content } from '../review'
import SheetRibbon from './SheetRibbon.vue'
import { useSteps, type Step } from './steps'

const book = useReview()
const kept = computed(() => book.typed!)
const steps = useSteps()
const plan = computed(() => steps.plan.value)
type Sheet = Schemas['RecordSheet']
const sheet = computed(() => (kept.value.now.sheet ?? {}) as Sheet)

function change(by: (s: Sheet) => Sheet) {
  kept.value.change({ ...kept.value.now, sheet: by({ ...sheet.value }) } as Content)
}
type Row = Schemas['KeyingPlanRow']
const isOff = (row: Row, level: string) => (sheet.value.off ?? []).some((k) => k.band === row.band && k.level === level && k.mode === row.mode)
function toggle(row: Row, level: string) {
  change((s) => {
    const rest = (s.off ?? []).filter((k) => !(k.band === row.band && k.level === level && k.mode === row.mode))
    return { ...s, off: isOff(row, level) ? rest : [...rest, { band: row.band, level, mode: row.mode, frequency_hz: 0 }] }
  })
}
const marks = ['calling', 'edges', 'middle']
// Where every mark is off a band is keyed at own frequencies alone.
const marked = computed(() => sheet.value.marks?.length ? sheet.value.marks.filter((m) => m !== 'none') : ['calling'])
function mark(m: string) {
  const next = marks.filter((o) => (o === m) !== marked.value.includes(o))
  change((s) => ({ ...s, marks: next.length ? next : ['none'] }))
}
const scoped = (scope: '' | 'power') => change((s) => ({ ...s, scope: scope || undefined }))
/** Own frequencies are of a band, and of a mode where that is not FM. */
const ownKey = (row: Row) => `${row.band}${inMode(row.mode)}`
const ownOf = (row: Row) => sheet.value.own?.[ownKey(row)] ?? row.channels.filter((c) => c.own).map((c) => c.frequency_hz)
function own(row: Row, text: string): boolean {
  const hz = Math.round(decimal(text) * 1e6)
  if (!(hz > 0)) return text.trim() === ''
  change((s) => ({ ...s, own: { ...s.own, [ownKey(row)]: [...new Set([...ownOf(row), hz])] } }))
  return true
}
const disown = (row: Row, hz: number) => change((s) => ({ ...s, own: { ...s.own, [ownKey(row)]: ownOf(row).filter((f) => f !== hz) } }))
const wrong = ref('')
function addOwn(row: Row, e: Event) {
  const field = e.target as HTMLInputElement
  wrong.value = own(row, field.value) ? '' : `“${field.value}” is no frequency in MHz, such as 145.500`
  if (!wrong.value) field.value = ''
}
const volts = computed(() => (sheet.value.supply_v ?? []).join(' '))
const badVolts = ref('')
function setVolts(text: string) {
  const all = text.trim() === '' ? [] : text.trim().split(/[\s/]+/).map(decimal)
  badVolts.value = all.some((v) => !(v > 0)) ? 'voltages in V with spaces between: 11.5 13.8 14.4' : ''
  if (!badVolts.value) change((s) => ({ ...s, supply_v: all }))
}
function togglePath(id: string) {
  const on = plan.value!.paths.filter((p) => p.on).map((p) => p.id)
  change((s) => ({ ...s, path_ids: on.includes(id) ? on.filter((o) => o !== id) : [...on, id] }))
}
/** Moves a step among those there are; what it moved past follows. */
function shift(s: Step, by: number) {
  const all = plan.value!.steps.map((o) => o.key)
  const at = all.indexOf(s.key)
  const to = at + by
  if (to < 0 || to >= all.length) return
  all.splice(at, 1)
  all.splice(to, 0, s.key)
  change((o) => ({ ...o, order: all }))
}
/** The box of a further test is the one that opens. */
const setBox = (a: Schemas['MeasureAsked']) => (useChosenBox(book.id, a.kind).value = a.box)
const here = ref('') // the step looked at
const chosen = computed(() => plan.value?.steps.find((s) => s.key === (here.value || steps.key.value)) ?? plan.value?.steps.find((s) => s.counts && !s.done) ?? plan.value?.steps[0] ?? null)
const list = ref<HTMLElement>()
const show = () => void nextTick(() => list.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' }))
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (isField(e.target) || e.ctrlKey || e.metaKey || !chosen.value || !plan.value) return
  const inButton = e.target instanceof HTMLElement && e.target.closest('button, a') !== null
  const by = { ArrowDown: 1, ArrowUp: -1 }[e.key]
  if (by) {
    e.preventDefault()
    if (e.altKey) shift(chosen.value, by)
    else here.value = plan.value.steps[Math.min(plan.value.steps.length - 1, Math.max(0, plan.value.steps.indexOf(chosen.value) + by))]!.key
    show()
  } else if (e.key === 'Enter' && !inButton && chosen.value.counts) {
    e.preventDefault()
    void steps.open(chosen.value)
  }
})
const minutes = computed(() => (plan.value ? steps.minutes(plan.value.bench_s) : 0))
const wirings = computed(() => plan.value?.rig_changes ?? 0)
const grouped = computed(() => {
  const out: { path: string; steps: Step[] }[] = []
  for (const s of plan.value?.steps ?? []) {
    if (out.at(-1)?.path === s.path) out.at(-1)!.steps.push(s)
    else out.push({ path: s.path, steps: [s] })
  }
  return out
})
useHelp(() => ({ title: 'Run sheet', keys: [['↑ ↓', 'choose a step'], ['Alt ↑', 'moves it up'], ['Alt ↓', 'moves it down'], ['Enter', 'keys it']], words: ['step', 'wiring', 'key-up', 'box', 'path', 'level'] }))
</script>

<template>
  <p v-if="steps.trouble.value" class="danger" role="alert">{{ steps.trouble.value }}</p>
  <p v-if="book.cells.length === 0" class="soft">
    Nothing to key yet: <RouterLink :to="`/reviews/${book.id}/radio`">type a claim</RouterLink> such as <span class="mono">2m 5/1</span>, and its bands and levels become steps here.
  </p>
  <div v-else-if="plan" class="stage">
    <section>
      <p class="large"><b>{{ minutes }} min</b>, {{ wirings }} {{ wirings === 1 ? 'wiring' : 'wirings' }}</p>
      <p class="soft small">{{ steps.going.value.length }} key-ups, {{ Math.round(plan.transmit_s / 60) }} min transmitting<template v-if="plan.battery_mah != null">, {{ Math.round(plan.battery_mah) }} mAh{{ plan.battery_of ? ` of ${plan.battery_of}` : '' }}</template>; {{ plan.left }} left</p>
      <h2>Bands and levels</h2>
      <table class="matrix">
        <thead><tr><th /><th v-for="l in plan.levels" :key="l" scope="col">{{ l }}</th></tr></thead>
        <tbody>
          <tr v-for="row in plan.rows" :key="row.band + row.mode">
            <th scope="row">{{ row.band }}<small v-if="row.mode !== 'FM'"> {{ row.mode }}</small></th>
            <td v-for="(c, i) in row.cells" :key="i">
              <button v-if="c" type="button" :aria-pressed="!isOff(row, c.level)" :aria-label="`${row.band} ${c.level}, ${c.claimed_w > 0 ? `${c.claimed_w} W` : '–'}, ${isOff(row, c.level) ? 'left out' : 'keyed'}`" @click="toggle(row, c.level)">
                {{ c.claimed_w > 0 ? `${c.claimed_w} W` : '–' }}<svg v-if="c.locked" class="chain" viewBox="0 0 16 10" aria-label="fixed by the channel"><path d="M2 5a3 3 0 0 1 3-3h2M7 8H5a3 3 0 0 1-3-3M9 2h2a3 3 0 0 1 0 6H9M5 5h6" /></svg>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <template v-if="plan.further.length">
        <h2>Beside the key-ups, as claims ask</h2>
        <ul class="further">
          <li v-for="a in plan.further" :key="a.kind + a.box" :class="{ done: a.done }"><i :class="{ done: a.done }" /> <RouterLink :to="`/reviews/${book.id}/${a.kind}`" @click="setBox(a)">{{ a.title }}</RouterLink> {{ a.box }} <small class="soft">{{ a.claimed.join('; ') }}; some {{ a.minutes }} min</small></li>
        </ul>
      </template>
      <h2>What is measured</h2>
      <div class="marks" role="group" aria-label="What the review is of">
        <button type="button" name="scope-all" :aria-pressed="!sheet.scope" @click="scoped('')">power and emissions</button>
        <button type="button" name="scope-power" :aria-pressed="sheet.scope === 'power'" @click="scoped('power')">power only</button>
      </div>
      <p v-if="sheet.scope === 'power'" class="soft small" data-scope>{{ plan.steps.some((s) => s.kind === 'emissions') ? 'Something of emissions was taken already: it is ruled on all the same.' : 'The edition says so: emissions were not part of this review.' }}</p>
      <h2>Keyed at</h2>
      <div class="marks" role="group" aria-label="Where each band is keyed">
        <button v-for="m in marks" :key="m" type="button" :aria-pressed="marked.includes(m)" @click="mark(m)">{{ m }}</button>
      </div>
      <div v-for="row in plan.rows" :key="`at ${row.band}${row.mode}`" class="channels">
        <b>{{ row.band }}{{ inMode(row.mode) }}</b>
        <span>
          <span v-if="row.channels.length === 0" class="soft">keyed nowhere: type a frequency</span>
          <template v-for="(c, i) in row.channels" :key="c.frequency_hz">{{ i ? ', ' : '' }}<span :class="{ struck: c.reserved }" :title="c.name">{{ c.name.startsWith('channel') ? `${c.name}, ` : '' }}{{ dial(c.frequency_hz) }}</span><em v-if="c.reserved" class="danger"> {{ c.reserved }}: not keyed</em><button v-if="c.own" type="button" class="less" :aria-label="`without ${megahertz(c.frequency_hz)}`" @click="disown(row, c.frequency_hz)">×</button></template>
        </span>
        <input :name="`own-${ownKey(row)}`" :aria-label="`another frequency on ${ownKey(row)}, MHz`" placeholder="MHz" inputmode="decimal" @change="addOwn(row, $event)" />
      </div>
      <p v-if="wrong" class="danger small" role="alert">{{ wrong }}</p>
      <label class="line">at volts <input name="sheet-volts" :value="volts" placeholder="as set" inputmode="decimal" @change="setVolts(($event.target as HTMLInputElement).value)" /></label>
      <p v-if="badVolts" class="danger small" role="alert">{{ badVolts }}</p>
      <h2>Through</h2>
      <label v-for="p in plan.paths" :key="p.id" class="way"><input type="checkbox" :checked="p.on" @change="togglePath(p.id)" />{{ p.name }} <small class="soft">{{ p.kind }}{{ p.also ? ', power too' : '' }}</small></label>
      <p class="small"><a :href="`/api/v1/reviews/${book.id}/channels`" download>Channel list</a> <span class="soft">as CSV, to programme the radio with</span></p>
    </section>
    <section>
      <SheetRibbon :plan="plan" :at="chosen?.key ?? ''" @choose="here = $event.key" />
      <div ref="list" class="steps">
        <template v-for="g in grouped" :key="g.path + g.steps[0]!.key">
          <h3>{{ g.path }}</h3>
          <ol>
            <li v-for="s in g.steps" :key="s.key" :class="{ not: !s.counts, done: s.done }" :aria-current="s.key === chosen?.key || undefined">
              <button type="button" @click="here = s.key" @dblclick="s.counts && steps.open(s)">
                <i :class="{ done: s.done }" /><b>{{ s.n }}</b>
                <span class="what">{{ s.box }}</span>
                <span>{{ dial(s.frequency_hz) }} MHz</span>
                <span class="soft">{{ s.channel }}</span>
                <span>{{ s.supply_v ? `${s.supply_v} V` : '' }}</span>
                <span class="soft">{{ s.claimed_w ? `${s.claimed_w} W` : 'no claim' }}</span>
              </button>
              <p v-if="!s.counts" class="why">cannot count: {{ s.why_not }}<template v-if="s.cure">. <b>{{ s.cure }}</b></template></p>
            </li>
          </ol>
        </template>
      </div>
      <p class="keys soft"><kbd>↑</kbd> <kbd>↓</kbd> choose <kbd>Enter</kbd> key it <kbd>Alt ↑</kbd> <kbd>Alt ↓</kbd> move it <ElButton v-if="chosen?.counts" type="primary" size="small" @click="steps.open(chosen)">Key step {{ chosen.n }}</ElButton> <ElButton v-if="sheet.order?.length" size="small" @click="change((s) => ({ ...s, order: [] }))">Back to the usual order</ElButton></p>
    </section>
  </div>
</template>

<style scoped>
.stage {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.55fr);
  gap: 32px;
}
.large {
  font: 600 38px/1.1 Fraunces, serif;
  margin: 0;
}
.small {
  font-size: 14px;
  margin: 4px 0;
}
h2 {
  font-size: 17px;
  margin: 16px 0 6px;
}
.matrix {
  border-collapse: collapse;
}
.matrix th {
  font-weight: 600;
  text-align: left;
  padding: 3px 12px 3px 0;
  font-size: 15px;
}
.matrix thead th {
  color: var(--soft);
  font-weight: 400;
  text-align: center;
  padding: 0 4px;
}
.matrix button,
.marks button {
  all: unset;
  cursor: pointer;
  min-width: 62px;
  box-sizing: border-box;
  padding: 6px 8px;
  text-align: center;
  border: 1px dashed var(--soft);
  color: var(--soft);
  font-size: 15px;
}
.matrix td {
  padding: 2px;
}
.matrix button[aria-pressed='true'],
.marks button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
  border: 1px solid var(--ink);
}
button:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
.chain {
  width: 16px;
  height: 10px;
  margin-left: 6px;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.5;
}
.marks {
  display: flex;
  gap: 4px;
}
.channels {
  display: grid;
  grid-template-columns: 84px 1fr 84px;
  gap: 8px;
  font-size: 14px;
  align-items: baseline;
  margin-top: 6px;
}
.channels em {
  font-style: normal;
}
.struck {
  text-decoration: line-through;
}
.less {
  all: unset;
  cursor: pointer;
  padding: 0 5px;
  color: var(--soft);
}
input:not([type]) {
  font: inherit;
  color: inherit;
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
  width: 100%;
  padding: 2px 0;
}
.line {
  display: grid;
  grid-template-columns: 64px 1fr;
  gap: 8px;
  font-size: 14px;
  margin-top: 8px;
}
.way {
  display: flex;
  gap: 8px;
  align-items: baseline;
  font-size: 15px;
  padding: 2px 0;
}
.way input {
  accent-color: var(--ink);
}
.steps {
  max-height: 430px;
  overflow: auto;
  border-top: 1px solid var(--hair);
}
h3 {
  margin: 10px 0 2px;
  font-size: 15px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li button {
  all: unset;
  cursor: pointer;
  display: grid;
  grid-template-columns: 14px 30px 1.2fr 1fr 1.1fr 56px 76px;
  gap: 8px;
  align-items: baseline;
  width: 100%;
  box-sizing: border-box;
  padding: 4px 6px;
  font-size: 16px;
}
li[aria-current] button {
  background: var(--press);
  font-weight: 600;
}
li i {
  width: 9px;
  height: 9px;
  border: 1.5px solid var(--soft);
  border-radius: 50%;
}
li i.done {
  background: var(--ink);
  border-color: var(--ink);
}
.further {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: 15px;
}
.further i {
  display: inline-block;
  margin-right: 4px;
}
.further li.done a {
  color: var(--soft);
}
li.not {
  background: repeating-linear-gradient(135deg, transparent 0 7px, var(--hair) 7px 8px);
}
.why {
  margin: 0;
  padding: 0 6px 4px 52px;
  font-size: 14px;
}
.keys {
  font-size: 14px;
  line-height: 2;
}
@media (max-width: 1150px) {
  .stage {
    grid-template-columns: minmax(0, 1fr);
  }
  .steps {
    max-height: none;
  }
}
@media (max-width: 820px) {
  li button {
    grid-template-columns: 14px 26px 1fr 1fr 44px 60px;
  }
  li button > .soft:nth-of-type(3) {
    display: none;
  }
}
.keys kbd:not(:first-child) {
  margin-left: 6px;
}
</style>
