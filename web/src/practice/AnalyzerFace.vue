<script setup lang="ts">
// The analyzer's screen: a plain plot to type from, with its own knobs under it. What it adds to its
// levels stands small in a corner, as on many.
import { computed, ref } from 'vue'
import { megahertz, words } from '../shared/figures'

const props = defineProps<{ say: (line: string) => Promise<string>; busy: boolean }>()
const levels = ref<number[]>([])
const set = ref<Record<string, string>>({})
const asked = { start: 'FREQ:STAR?', stop: 'FREQ:STOP?', rbw: 'BAND?', attenuation: 'INP:ATT?', offset: 'DISP:TRAC:Y:RLEV:OFFS?', hold: 'TRAC:MODE?', overloaded: 'STAT:QUES:POW:COND?' } as const
async function ask() {
  const lines = Object.values(asked).map((q) => `:${q}`).join(';')
  const answers = (await props.say(lines)).split(';')
  set.value = Object.fromEntries(Object.keys(asked).map((k, i) => [k, answers[i] ?? '']))
}
void ask()
/** One sweep, drawn when it is whole. */
async function sweep() {
  await props.say('FORM ASC')
  await props.say('INIT')
  await props.say('*OPC?')
  const trace = await props.say('TRAC? TRACE1')
  levels.value = trace.split(',').map(Number).filter((v) => !Number.isNaN(v))
  await ask()
}
const commands: Record<string, (v: string) => string> = {
  start: (v) => `FREQ:STAR ${v} MHz`, stop: (v) => `FREQ:STOP ${v} MHz`, rbw: (v) => `BAND ${v} kHz`, attenuation: (v) => `INP:ATT ${v}`, offset: (v) => `DISP:TRAC:Y:RLEV:OFFS ${v}`,
}
async function turn(what: string, value: string) {
  await props.say(commands[what]!(value.trim().replace(',', '.').replace('\u2212', '-')))
  await ask()
}
async function hold(mode: string) {
  await props.say(`TRAC:MODE ${mode}`)
  await ask()
}
const n = (k: string) => Number(set.value[k] ?? 0)
const W = 560
const H = 210
const top = computed(() => Math.ceil((Math.max(...levels.value) + 6) / 10) * 10)
const bottom = computed(() => Math.floor((Math.min(...levels.value) - 4) / 10) * 10)
const x = (i: number) => 40 + (i / (levels.value.length - 1)) * (W - 50)
const y = (l: number) => 8 + ((top.value - l) / (top.value - bottom.value)) * (H - 34)
const trace = computed(() => levels.value.map((l, i) => `${x(i).toFixed(1)},${y(l).toFixed(1)}`).join(' '))
// The highest peaks, to be read off; pointed at, each says what it is.
const pointed = ref(-1)
function point(e: MouseEvent) {
  const box = (e.currentTarget as SVGElement).getBoundingClientRect()
  const at = ((e.clientX - box.left) / box.width) * W
  const i = Math.round(((at - 40) / (W - 50)) * (levels.value.length - 1))
  const near = Math.round(levels.value.length / 80)
  let best = Math.min(Math.max(i, 0), levels.value.length - 1)
  for (let k = Math.max(0, i - near); k <= Math.min(levels.value.length - 1, i + near); k++) if (levels.value[k]! > levels.value[best]!) best = k
  pointed.value = best
}
const hz = (i: number) => n('start') + (i / Math.max(1, levels.value.length - 1)) * (n('stop') - n('start'))
const fields = [['start', 'start, MHz', 1e6], ['stop', 'stop, MHz', 1e6], ['rbw', 'bandwidth, kHz', 1e3], ['attenuation', 'input, dB', 1], ['offset', 'adds, dB', 1]] as const
</script>

<template>
  <div class="screen">
    <svg :viewBox="`0 0 ${W} ${H}`" role="img" aria-label="The analyzer's screen" data-screen-trace @mousemove="point" @mouseleave="pointed = -1">
      <template v-if="levels.length > 1">
        <text x="36" :y="y(top) + 10" text-anchor="end">{{ words(String(top)) }}</text><text x="44" :y="y(top) + 10">dBm</text><text x="36" :y="y(bottom)" text-anchor="end">{{ words(String(bottom)) }}</text>
        <line class="base" x1="40" :x2="W - 10" :y1="H - 26" :y2="H - 26" />
        <polyline :points="trace" />
        <g v-if="pointed >= 0"><line class="base" :x1="x(pointed)" :x2="x(pointed)" y1="8" :y2="H - 26" /><text :x="Math.min(Math.max(x(pointed), 100), W - 90)" :y="H - 30" text-anchor="middle" class="at">{{ megahertz(hz(pointed)) }}, {{ words(levels[pointed]!.toFixed(1)) }} dBm</text></g>
        <text x="40" :y="H - 10">{{ megahertz(n('start')) }}</text><text :x="W - 10" :y="H - 10" text-anchor="end">{{ megahertz(n('stop')) }}</text>
      </template>
      <text v-else :x="W / 2" :y="H / 2" text-anchor="middle">no sweep yet</text>
      <text :x="W - 10" y="14" text-anchor="end" :class="{ over: set.overloaded === '1' }">{{ set.overloaded === '1' ? 'input overloaded  ' : '' }}adds {{ words(String(n('offset'))) }} dB</text>
    </svg>
    <p class="knobs">
      <label v-for="[k, l, by] in fields" :key="k"><span class="soft">{{ l }}</span><input :value="Number((n(k) / by).toPrecision(8))" :name="`knob-${k}`" @change="turn(k, ($event.target as HTMLInputElement).value)" /></label>
      <span class="hold"><button v-for="[m, l] in [['WRIT', 'single'], ['MAXH', 'max hold']]" :key="m" type="button" :aria-pressed="set.hold === m" @click="hold(m!)">{{ l }}</button></span>
      <ElButton size="small" name="look" :disabled="busy" @click="sweep">{{ busy ? 'sweeping…' : 'One sweep' }}</ElButton>
    </p>
  </div>
</template>

<style scoped>
svg {
  width: 100%;
  border: 1px solid var(--hair);
}
polyline {
  fill: none;
  stroke: var(--ink);
}
.base {
  stroke: var(--hair);
}
text {
  font-size: 10.5px;
  fill: var(--soft);
}
.at {
  fill: var(--ink);
}
.over {
  fill: var(--rust);
}
.knobs {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: end;
  margin: 6px 0;
  font-size: 13px;
}
label span {
  display: block;
}
input {
  width: 74px;
  font: inherit;
  font-size: 15px;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
.hold button {
  all: unset;
  cursor: pointer;
  padding: 2px 8px;
  border: 1px solid var(--soft);
}
.hold button:focus-visible {
  outline: 2px solid var(--ink);
}
.hold [aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
</style>
