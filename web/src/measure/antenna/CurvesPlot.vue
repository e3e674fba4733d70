<script setup lang="ts">
// SWR over frequency, several laid over each other: the one shown in ink, the band shaded.
import { computed } from 'vue'
import { apart } from '../../shared/apart'
import type { Schemas } from '../../shared/server'
import { setupWords, type Setup } from './words'

type Measured = Schemas['AntennaMeasured']
const props = defineProps<{ shown: Measured; others: Measured[] }>()
const top = 4
const all = computed(() => [...props.others, props.shown])
const ends = computed(() => {
  const at = [...all.value.flatMap((m) => m.curve.map((p) => p.frequency_hz)), props.shown.from_hz ?? NaN, props.shown.to_hz ?? NaN].filter((v) => !Number.isNaN(v))
  const [lo, hi] = [Math.min(...at), Math.max(...at)]
  const air = 0.04 * (hi - lo) || 1e6
  return [lo - air, hi + air] as const
})
const x = (hz: number) => 44 + ((hz - ends.value[0]) / (ends.value[1] - ends.value[0])) * 546
const y = (swr: number) => 150 - ((Math.min(swr, top) - 1) / (top - 1)) * 140
const path = (m: Measured) => m.curve.map((p, i) => (p.swr == null ? '' : `${i === 0 || m.curve[i - 1]!.swr == null ? 'M' : 'L'}${x(p.frequency_hz).toFixed(1)} ${y(p.swr).toFixed(1)}`)).join('')
const last = (m: Measured) => m.curve.findLast((p) => p.swr != null)
/** Names of curves stand apart, however near their ends lie. */
const labels = computed(() => {
  const named = props.others.filter((m) => last(m))
  const ys = apart(named.map((m) => y(last(m)!.swr!) - 4), 15)
  return named.map((m, i) => ({ id: m.id, says: setupWords[m.setup as Setup], x: Math.min(560, x(last(m)!.frequency_hz)), y: ys[i]! }))
})
const narrow = computed(() => props.shown.from_hz != null && props.shown.to_hz != null && x(props.shown.to_hz) - x(props.shown.from_hz) < 78)
</script>

<template>
  <svg viewBox="0 0 600 176" role="img" :aria-label="`SWR over frequency, ${setupWords[shown.setup as Setup]}, with ${others.length} others`">
    <rect v-if="shown.from_hz != null && shown.to_hz != null" :x="x(shown.from_hz)" y="10" :width="Math.max(1, x(shown.to_hz) - x(shown.from_hz))" height="140" class="band" />
    <template v-for="v in [1, 2, 3, 4]" :key="v"><line x1="44" x2="590" :y1="y(v)" :y2="y(v)" :class="v === 2 ? 'two' : 'grid'" /><text x="38" :y="y(v) + 5" text-anchor="end">{{ v }}{{ v === top ? '+' : '' }}</text></template>
    <template v-for="m in others" :key="m.id"><path :d="path(m)" class="other" /></template>
    <text v-for="l in labels" :key="`l${l.id}`" :x="l.x" :y="l.y" text-anchor="end">{{ l.says }}</text>
    <path :d="path(shown)" class="shown" />
    <template v-if="shown.typed"><circle v-for="p in shown.curve" :key="p.frequency_hz" :cx="x(p.frequency_hz)" :cy="y(p.swr ?? top)" r="5" /></template>
    <text v-if="narrow" :x="x((shown.from_hz! + shown.to_hz!) / 2)" y="170" text-anchor="middle">{{ shown.from_hz! / 1e6 }} to {{ shown.to_hz! / 1e6 }} MHz</text>
    <template v-else-if="shown.from_hz != null && shown.to_hz != null"><text v-for="hz in [shown.from_hz, shown.to_hz]" :key="hz" :x="x(hz)" y="170" text-anchor="middle">{{ hz / 1e6 }} MHz</text></template>
  </svg>
</template>

<style src="../entry/curves.css" scoped></style>
<style scoped>
.band {
  fill: var(--press);
  opacity: 0.55;
}
.two {
  stroke: var(--soft);
  stroke-dasharray: 5 4;
}
</style>
