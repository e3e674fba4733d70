<script setup lang="ts">
// The emission in its sweep: what holds 99 % of the power washed, the width at so many dB below as
// a line, what may be authorised as posts; others of the band laid under it.
import { computed } from 'vue'
import type { Schemas } from '../../shared/server'
import { kilohertz, signalWords, type Signal } from './words'

type Measured = Schemas['OccupiedMeasured']
const props = defineProps<{ shown: Measured; others: Measured[] }>()
const floor = computed(() => Math.max(-110, Math.min(-60, ...props.shown.curve.map((p) => p.db))))
const ends = computed(() => {
  const [first, last] = [props.shown.curve[0]!.frequency_hz, props.shown.curve.at(-1)!.frequency_hz]
  return [first, last] as const
})
const x = (hz: number) => 44 + Math.min(1, Math.max(0, (hz - ends.value[0]) / (ends.value[1] - ends.value[0]))) * 546
const y = (db: number) => 12 + (Math.max(db, floor.value) / floor.value) * 138
const within = (m: Measured) => m.curve.filter((p) => p.frequency_hz >= ends.value[0] && p.frequency_hz <= ends.value[1])
const path = (points: Measured['curve']) => points.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.frequency_hz).toFixed(1)} ${y(p.db).toFixed(1)}`).join('')
const taken = computed(() => {
  const r = props.shown.result!
  const inside = within(props.shown).filter((p) => p.frequency_hz >= r.low_hz && p.frequency_hz <= r.high_hz)
  return inside.length ? `${path(inside)}L${x(r.high_hz)} 150L${x(r.low_hz)} 150Z` : ''
})
const grid = computed(() => Array.from({ length: Math.floor(-floor.value / 20) + 1 }, (_, i) => -20 * i))
const offsets = computed(() => {
  const span = ends.value[1] - ends.value[0]
  const step = [1e3, 2e3, 5e3, 10e3, 20e3, 50e3, 100e3, 200e3, 500e3, 1e6].find((s) => span / s <= 9) ?? span
  const n = Math.floor(span / 2 / step)
  return Array.from({ length: 2 * n + 1 }, (_, i) => (i - n) * step).filter((o) => props.shown.frequency_hz + o >= ends.value[0] && props.shown.frequency_hz + o <= ends.value[1])
})
const how = (m: Measured) => `${signalWords[m.signal as Signal]}${m.rbw_hz == null ? '' : `, ${m.rbw_hz < 1e3 ? `${m.rbw_hz} Hz` : `${m.rbw_hz / 1e3} kHz`}`}`
</script>

<template>
  <svg viewBox="0 0 600 176" role="img" :aria-label="`the emission: 99 % of it within ${kilohertz(shown.result!.occupied_hz)} kHz, with ${others.length} others`">
    <template v-for="v in grid" :key="v"><line x1="44" x2="590" :y1="y(v)" :y2="y(v)" class="grid" /><text x="38" :y="y(v) + 5" text-anchor="end">{{ String(v).replace('-', '−') }}</text></template>
    <path :d="taken" class="taken" />
    <path v-for="m in others" :key="m.id" :d="path(within(m))" class="other" />
    <path :d="path(shown.curve)" class="shown" />
    <template v-if="shown.limit_hz != null"><line v-for="s in [-1, 1]" :key="s" :x1="x(shown.frequency_hz + (s * shown.limit_hz) / 2)" :x2="x(shown.frequency_hz + (s * shown.limit_hz) / 2)" y1="12" y2="150" class="limit" /></template>
    <line v-if="shown.result!.below_low_hz != null && shown.result!.below_high_hz != null" :x1="x(shown.result!.below_low_hz)" :x2="x(shown.result!.below_high_hz)" :y1="y(-shown.below_db)" :y2="y(-shown.below_db)" class="below" />
    <text v-for="o in offsets" :key="o" :x="x(shown.frequency_hz + o)" y="170" text-anchor="middle">{{ o === 0 ? 'carrier' : `${o > 0 ? '+' : '−'}${Math.abs(o) / 1e3}${o === offsets.at(-1) ? ' kHz' : ''}` }}</text>
    <text v-for="(m, i) in others.slice(0, 3)" :key="m.id" x="586" :y="42 + 15 * i" text-anchor="end" class="name">under it: {{ how(m) }}</text>
    <text x="586" y="26" text-anchor="end" class="name ink">{{ how(shown) }}</text>
  </svg>
</template>

<style src="../entry/curves.css" scoped></style>
<style scoped>
.taken {
  fill: var(--press);
  stroke: none;
  opacity: 0.8;
}
.shown {
  stroke-width: 2;
}
.limit {
  stroke: var(--ink);
  stroke-dasharray: 7 5;
}
.below {
  stroke: var(--soft);
  stroke-width: 3;
}
.ink {
  fill: var(--ink);
}
</style>
