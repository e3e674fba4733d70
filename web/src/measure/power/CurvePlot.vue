<script setup lang="ts">
// Watts over something: a line a level, its whiskers the uncertainty; outside the band hollow,
// refused a cross on the ground.
import { apart } from '../../shared/apart'
import { computed } from 'vue'
import { megahertz, watts } from '../../shared/figures'
import type { Schemas } from '../../shared/server'

const props = defineProps<{ curves: Schemas['PowerCurve'][]; axis: 'frequency' | 'supply' | 'time' }>()
const W = 900
const H = 300
const L = 70
const B = 34
const R = 110
const points = computed(() => props.curves.flatMap((c) => c.points))
const x0 = (c: Schemas['PowerCurve']) => (props.axis === 'time' ? c.points[0]!.x : 0)
const xs = computed(() => props.curves.flatMap((c) => c.points.map((p) => p.x - x0(c))))
const lo = computed(() => Math.min(...xs.value))
const hi = computed(() => Math.max(...xs.value))
const pad = computed(() => (hi.value - lo.value || 1) * 0.04)
const most = computed(() => Math.max(0.001, ...points.value.map((p) => p.high_w ?? p.w ?? 0)) * 1.06)
const X = (v: number) => L + ((v - lo.value + pad.value) / (hi.value - lo.value + 2 * pad.value)) * (W - L - R)
const Y = (w: number) => 12 + (1 - w / most.value) * (H - B - 12)
/** The lines of a curve: one breaks at a gap. */
const lines = (c: Schemas['PowerCurve']) =>
  c.points.reduce<string[][]>((all, p) => {
    if (p.gap || all.length === 0) all.push([])
    if (p.w != null) all.at(-1)!.push(`${X(p.x - x0(c))},${Y(p.w)}`)
    return all
  }, []).map((l) => l.join(' '))
function nice(from: number, to: number): number[] {
  const raw = (to - from) / 5 || 1
  const unit = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 2.5, 5, 10].map((m) => m * unit).find((s) => s >= raw)!
  const out = []
  for (let v = Math.ceil(from / step) * step; v <= to + step / 1e6; v += step) out.push(v)
  return out
}
const xTicks = computed(() => nice(lo.value, hi.value))
const yTicks = computed(() => nice(0, most.value))
const shown = (v: number) => (props.axis === 'frequency' ? megahertz(v) : props.axis === 'supply' ? `${Number(v.toPrecision(4))} V` : `${Math.round(v)} s`)
const said = computed(() => props.curves.map((c) => `${c.name}: ${c.points.map((p) => `${shown(p.x - x0(c))} ${p.w == null ? 'refused' : watts(p.w)}`).join(', ')}`).join('; '))
const lastOf = (c: Schemas['PowerCurve']) => c.points.filter((p) => p.w != null).at(-1)
/** Names of curves stand apart, however near their ends lie. */
const labels = computed(() => {
  const named = props.curves.filter((c) => lastOf(c))
  const ys = apart(named.map((c) => Y(lastOf(c)!.w!) + 5), 17)
  return named.map((c, i) => ({ name: c.name, x: X(lastOf(c)!.x - x0(c)) + 10, y: ys[i]! }))
})
</script>

<template>
  <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="said">
    <g v-for="t in yTicks" :key="`y${t}`"><line class="hair" :x1="L" :x2="W - R" :y1="Y(t)" :y2="Y(t)" /><text :x="L - 8" :y="Y(t) + 5" text-anchor="end">{{ watts(t) }}</text></g>
    <g v-for="t in xTicks" :key="`x${t}`"><line class="tick" :x1="X(t)" :x2="X(t)" :y1="H - B" :y2="H - B + 5" /><text :x="X(t)" :y="H - B + 22" text-anchor="middle">{{ shown(t) }}</text></g>
    <g v-for="(c, i) in curves" :key="c.name">
      <polyline v-for="l in lines(c)" :key="l" class="line" :class="`n${i % 4}`" :points="l" />
      <g v-for="p in c.points" :key="p.id">
        <line v-if="p.low_w != null" class="whisker" :x1="X(p.x - x0(c))" :x2="X(p.x - x0(c))" :y1="Y(p.low_w)" :y2="Y(p.high_w!)" />
        <circle v-if="p.w != null" :class="{ outside: p.outside }" :cx="X(p.x - x0(c))" :cy="Y(p.w)" r="5"><title>{{ `${c.name}, ${shown(p.x - x0(c))}: ${watts(p.w)}` }}</title></circle>
        <path v-else class="refused" :d="`M${X(p.x - x0(c)) - 6} ${H - B - 12}l12 12m0 -12l-12 12`"><title>{{ `${c.name}, ${shown(p.x - x0(c))}: refused` }}</title></path>
      </g>
    </g>
    <text v-for="l in labels" :key="`l${l.name}`" class="label" :x="l.x" :y="l.y">{{ l.name }}</text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: auto;
  overflow: visible;
}
.hair {
  stroke: var(--hair);
}
.tick {
  stroke: var(--soft);
}
.line {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.n1 {
  stroke-dasharray: 8 4;
}
.n2 {
  stroke-dasharray: 3 3;
}
.n3 {
  stroke-dasharray: 10 3 2 3;
}
.whisker {
  stroke: var(--ink);
  stroke-width: 4;
  opacity: 0.3;
}
circle {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 2;
}
circle.outside {
  fill: var(--sheet);
}
.refused {
  stroke: var(--ink);
  stroke-width: 3;
}
text {
  font-size: 14px;
  fill: var(--soft);
}
.label {
  fill: var(--ink);
}
</style>
