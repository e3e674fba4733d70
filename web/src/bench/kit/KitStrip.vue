<script setup lang="ts">
// One thing on the bench as a strip over frequency, with its rating as a lid and
// its loss or SWR as a curve, where they change.
import { computed } from 'vue'
import { dbm, megahertz, watts } from '../../shared/figures'
import type { Kit } from '../bench'
import { kindNames } from './fields'

const props = defineProps<{ item: Kit; open?: boolean }>()
const W = 560
const H = computed(() => (props.open ? 92 : 44))
// All share one scale; an open one whose curve is narrow is drawn over its own.
const axis = computed(() => {
  const [from, to] = [props.item.curve[0]?.frequency_hz ?? 0, props.item.curve.at(-1)?.frequency_hz ?? 0]
  return props.open && from > 0 && to < 10 * from ? { from, to, own: true } : { from: 1e5, to: 1e10, own: false }
})
const floor = computed(() => H.value - (axis.value.own ? 18 : 6))
const x = (f: number) => (Math.log(Math.min(Math.max(f, axis.value.from), axis.value.to) / axis.value.from) / Math.log(axis.value.to / axis.value.from)) * W
const ticks = computed(() => [0, 1, 2, 3, 4, 5].map((i) => axis.value.from * (axis.value.to / axis.value.from) ** (i / 5)))

interface Span {
  from: number
  to: number
  lid: string
}
const spans = computed<Span[]>(() => {
  const { element: e, supply } = props.item.spec
  if (supply) return []
  if (e.ranges?.length) return e.ranges.map((r) => ({ from: r.from_hz, to: r.to_hz, lid: r.max_input_dbm == null ? '' : dbm(r.max_input_dbm) }))
  const table = e.loss?.table
  const curve = props.item.curve
  const file = e.loss?.touchstone != null || e.swr_touchstone != null
  const from = Math.max(e.from_hz ?? 0, table?.[0]?.frequency_hz ?? 0, file ? (curve[0]?.frequency_hz ?? 0) : 0)
  const to = Math.min(e.to_hz ?? Infinity, table?.at(-1)?.frequency_hz ?? Infinity, file ? (curve.at(-1)?.frequency_hz ?? Infinity) : Infinity)
  return [{ from, to, lid: e.max_w == null ? '' : watts(e.max_w) }]
})
const reach = computed(() => spans.value.map((s) => (s.to === Infinity ? (s.from > 0 ? `from ${megahertz(s.from)}` : 'any frequency') : `${megahertz(s.from)} to ${megahertz(s.to)}`)).join(', '))
const rating = computed(() => {
  const { element: e, supply, levels } = props.item.spec
  if (supply) return `${supply.from_v} to ${supply.to_v} V${supply.limit_a == null ? ', no limit known' : `, limits at ${supply.limit_a} A`}`
  if (levels) return `${dbm(levels.from_dbm)} to ${dbm(levels.to_dbm)}`
  if (e.ranges?.length) {
    const inputs = e.ranges.map((r) => r.max_input_dbm)
    return inputs.some((v) => v == null) ? 'what an input survives is not known' : `input survives ${dbm(Math.min(...(inputs as number[])))}`
  }
  if (e.max_w == null) return ['cable', 'adapter', 'antenna', 'antenna-analyzer', 'counter'].includes(props.item.kind) ? '' : 'no rating known'
  return `takes ${watts(e.max_w)}${e.short_max_w == null ? '' : `, ${watts(e.short_max_w)} for ${e.short_s} s`}`
})

// The curve keeps clear of the lid; what it spans is written beside it.
const curve = computed(() => {
  const points = props.item.curve.map((p) => [p.frequency_hz, p.loss_db ?? p.swr] as const).filter((p): p is readonly [number, number] => p[1] != null && p[1] < 1e3)
  if (points.length < 2) return null
  const values = points.map((p) => p[1])
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const y = (v: number) => floor.value - 2 - ((v - low) / (high - low || 1)) * (floor.value - 24)
  const unit = props.item.curve.some((p) => p.loss_db != null) ? 'dB' : ''
  return { d: points.map(([f, v], i) => `${i ? 'L' : 'M'}${x(f).toFixed(1)} ${y(v).toFixed(1)}`).join(''), words: `${unit ? 'loss' : 'SWR'} ${low.toFixed(2)} to ${high.toFixed(2)} ${unit}`.trim() }
})
</script>

<template>
  <div class="item">
    <div>
      <b>{{ item.name }}</b>
      <p class="soft">{{ kindNames[item.kind] }}<span :class="{ old: item.old }">; {{ item.checked }}</span><template v-if="item.counted.typical?.length">; <i>{{ item.counted.typical.length }} typical value{{ item.counted.typical.length > 1 ? 's' : '' }}</i></template></p>
    </div>
    <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`${item.name}: ${reach} ${rating}`">
      <line v-for="f in ticks" :key="f" class="decade" :x1="x(f)" :x2="x(f)" y1="2" :y2="floor + 4" />
      <template v-if="axis.own">
        <text v-for="(f, i) in ticks" :key="f" :x="x(f)" :y="H - 3" :text-anchor="i === 0 ? 'start' : i === 5 ? 'end' : 'middle'">{{ megahertz(Number(f.toPrecision(4))) }}</text>
      </template>
      <g v-for="(s, i) in spans" :key="i">
        <rect class="body" :x="x(s.from)" y="18" :width="Math.max(2, x(s.to) - x(s.from))" :height="floor - 18" />
        <template v-if="s.lid">
          <path class="lid" :d="`M${x(s.from)} 17V12H${x(s.to)}V17`" />
          <text :x="Math.min(x(s.to), W - 2)" y="9" text-anchor="end">{{ s.lid }}</text>
        </template>
      </g>
      <path v-if="curve" class="curve" :d="curve.d" />
    </svg>
    <span class="soft reach"><span v-for="w in [reach, rating, curve?.words].filter(Boolean)" :key="w">{{ w }}</span></span>
  </div>
</template>

<style scoped>
.item {
  display: grid;
  grid-template-columns: 330px 1fr 200px;
  gap: 20px;
  align-items: center;
}
.reach span {
  display: block;
}
p,
.reach {
  font-size: 14px;
  line-height: 1.35;
  margin: 0;
}
.body {
  fill: color-mix(in srgb, var(--ink) 16%, transparent);
}
.lid {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
text {
  font-size: 11px;
  fill: var(--soft);
}
.decade {
  stroke: var(--hair);
}
.old {
  text-decoration: underline dotted;
}
</style>
