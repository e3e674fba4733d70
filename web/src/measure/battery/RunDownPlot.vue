<script setup lang="ts">
// Volts over time until it is empty, several laid over each other from their beginnings.
import { computed } from 'vue'
import type { Schemas } from '../../shared/server'

type Measured = Schemas['BatteryMeasured']
const props = defineProps<{ shown: Measured; others: Measured[] }>()
const all = computed(() => [...props.others, props.shown])
const since = (m: Measured, s: number) => s - m.curve[0]!.t_s
const longest = computed(() => Math.max(...all.value.map((m) => since(m, m.curve.at(-1)!.t_s)), 1))
const volts = computed(() => {
  const v = all.value.flatMap((m) => m.curve.map((p) => p.v)).concat(props.shown.cutoff_v ?? [])
  const air = 0.08 * (Math.max(...v) - Math.min(...v)) || 0.5
  return [Math.min(...v) - air, Math.max(...v) + air] as const
})
const x = (s: number) => 56 + (s / longest.value) * 530
const y = (v: number) => 150 - ((v - volts.value[0]) / (volts.value[1] - volts.value[0])) * 138
const path = (m: Measured) => m.curve.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(since(m, p.t_s)).toFixed(1)} ${y(p.v).toFixed(1)}`).join('')
const under = computed(() => {
  const kept = props.shown.curve.filter((p) => p.t_s <= props.shown.result!.ended_s)
  if (kept.length === 0) return ''
  const end = x(since(props.shown, props.shown.result!.ended_s))
  return `${kept.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(since(props.shown, p.t_s)).toFixed(1)} ${y(p.v).toFixed(1)}`).join('')}${props.shown.cutoff_v != null && props.shown.result!.ended_by === 'cutoff' ? `L${end} ${y(props.shown.cutoff_v)}` : ''}L${end} 150L56 150Z`
})
const marks = computed(() => [0, 0.25, 0.5, 0.75, 1].map((s) => s * longest.value))
const minutes = (s: number) => (longest.value >= 7200 ? `${(s / 3600).toFixed(1)} h` : `${(s / 60).toFixed(0)} min`)
</script>

<template>
  <svg viewBox="0 0 600 176" role="img" :aria-label="`volts over time: ${shown.result!.mah.toFixed(0)} mAh in ${minutes(since(shown, shown.result!.ended_s))}`">
    <path :d="under" class="under" />
    <line x1="56" x2="586" y1="150" y2="150" class="grid" />
    <text v-for="v in [volts[0], (volts[0] + volts[1]) / 2, volts[1]]" :key="v" x="50" :y="y(v) + (v === volts[1] ? 12 : 4)" text-anchor="end">{{ v.toFixed(1) }} V</text>
    <template v-if="shown.cutoff_v != null"><line x1="56" x2="586" :y1="y(shown.cutoff_v)" :y2="y(shown.cutoff_v)" class="empty" /><text x="60" :y="y(shown.cutoff_v) - 5">empty at {{ shown.cutoff_v }} V</text></template>
    <path v-for="m in others" :key="m.id" :d="path(m)" class="other" />
    <path :d="path(shown)" class="shown" />
    <template v-if="shown.points <= 40"><circle v-for="p in shown.curve" :key="p.t_s" :cx="x(since(shown, p.t_s))" :cy="y(p.v)" r="4" /></template>
    <text v-for="(s, i) in marks" :key="s" :x="x(s)" y="170" :text-anchor="i === marks.length - 1 ? 'end' : 'middle'">{{ minutes(s) }}</text>
  </svg>
</template>

<style src="../entry/curves.css" scoped></style>
<style scoped>
.under {
  fill: var(--press);
}
.empty {
  stroke: var(--soft);
  stroke-dasharray: 5 4;
}
</style>
