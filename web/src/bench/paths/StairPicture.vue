<script setup lang="ts">
// The level at each point of a path as descending steps. A part's rating is a
// lid: a step that touches its lid is danger. Peaks, where they stand above the
// mean, are a second, thin line.
import { computed } from 'vue'
import { db, dbm, megahertz, watts } from '../../shared/figures'
import { partMarks } from '../../shared/shapes/parts'
import { useBench, type Stairs } from '../bench'

const props = defineProps<{ stairs: Stairs; multiple: number; compact?: boolean; titles?: boolean; width: number; height?: number }>()

const H = computed(() => props.height ?? (props.compact ? 226 : 216))
const top = computed(() => (props.titles ? 62 : 30))
// What each part is, where the path is one that is kept as it is drawn here.
const bench = useBench()
const kinds = computed(() => {
  const parts = bench.bench?.paths.find((p) => p.id === props.stairs.path_id)?.parts ?? []
  return parts.length === props.stairs.titles.length ? parts.map((p) => bench.byId.get(p.kit_id)?.kind ?? '') : []
})
const bottom = 58
const titleLength = computed(() => Math.floor(props.width / Math.max(1, props.stairs.titles.length) / 7.2))

const scale = computed(() => {
  const s = props.stairs
  const levels = s.multiples.nodes.flatMap((n) => n.arriving_dbm).filter((v): v is number => v != null)
  const all = [...levels, ...s.lids_dbm.filter((v): v is number => v != null)]
  const high = Math.max(...all) + s.peak_db + 4
  const low = Math.min(...all) - 6
  return (v: number) => top.value + ((high - v) / (high - low)) * (H.value - top.value - bottom)
})

const steps = computed(() => {
  const s = props.stairs
  const width = props.width / Math.max(1, s.titles.length)
  return s.titles.map((title, i) => {
    const node = s.multiples.nodes[i]!
    const level = node.arriving_dbm[props.multiple - 1] ?? null
    const lid = s.lids_dbm[i] ?? null
    const found = s.problems.filter((p) => p.element === i)
    return {
      title,
      x: i * width,
      width,
      level,
      w: node.arriving_w[props.multiple - 1] ?? null,
      y: level == null ? null : scale.value(level),
      lid,
      lidY: lid == null ? null : scale.value(lid),
      danger: found.some((p) => p.severity === 'danger'),
      near: found.some((p) => p.code.startsWith('near') || p.code === 'short-time'),
    }
  })
})

function line(above: number): string {
  let d = ''
  for (const s of steps.value) {
    if (s.level == null) continue
    const y = scale.value(s.level + above).toFixed(1)
    d += `${d ? 'V' : `M${s.x} `}${y}H${(s.x + s.width).toFixed(1)}`
  }
  return d
}
const narrow = computed(() => (steps.value[0]?.width ?? 200) < 96)
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${H}`" :width="compact ? undefined : width" role="img" :aria-label="`Levels at ${megahertz(stairs.multiples.frequencies_hz[multiple - 1]!)}`">
    <g v-for="(s, i) in steps" :key="i">
      <line class="part" :x1="s.x" :x2="s.x" :y1="titles ? 4 : 0" :y2="H - 4" />
      <path v-if="titles && kinds[i]" class="is" :transform="`translate(${s.x + 6}, 3)`" :d="partMarks[kinds[i]!]" />
      <text v-if="titles" class="title" :x="s.x + 6" y="36">{{ s.title.length > titleLength ? s.title.slice(0, titleLength - 1) + '…' : s.title }}</text>
      <g v-if="s.lidY != null" class="lid" :class="{ hot: s.danger, near: s.near }">
        <path :d="`M${s.x + 8} ${s.lidY + 6}v-6H${s.x + s.width - 8}v6`" />
        <text :x="s.x + s.width - 10" :y="s.lidY - 5" text-anchor="end">{{ narrow ? '' : 'takes ' }}{{ dbm(s.lid) }}</text>
      </g>
      <g v-if="s.y != null" :class="{ hot: s.danger }">
        <text class="level" :class="{ narrow }" :x="s.x + 6" :y="H - 32">{{ dbm(s.level) }}</text>
        <text class="watts" :class="{ narrow }" :x="s.x + 6" :y="H - 12">{{ watts(s.w) }}</text>
      </g>
      <text v-else class="watts" :x="s.x + 6" :y="H - 32">not known here</text>
    </g>
    <path v-if="stairs.peak_db > 0.05" class="peaks" :d="line(stairs.peak_db)" />
    <path class="steps" :d="line(0)" />
    <text v-if="stairs.peak_db > 0.05 && steps[0]?.level != null" class="peak" :x="6" :y="scale(steps[0].level + stairs.peak_db) - 4">peak, {{ db(stairs.peak_db) }}</text>
  </svg>
</template>

<style scoped>
svg {
  max-width: none;
  height: auto;
  display: block;
}
.part {
  stroke: var(--hair);
}
.title {
  font-size: 14px;
  fill: var(--soft);
}
.is {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.steps {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.peaks {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  stroke-dasharray: 5 4;
}
.peak,
.lid text {
  font-size: 12px;
  fill: var(--soft);
}
.lid path {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.5;
}
.lid.near path {
  stroke: var(--amber);
  stroke-width: 2.5;
}
.lid.hot path {
  stroke: var(--rust);
  stroke-width: 3;
}
.level {
  font-size: 18px;
  font-weight: 600;
  fill: var(--ink);
}
.watts {
  font-size: 15px;
  fill: var(--soft);
}
.level.narrow,
.watts.narrow {
  font-size: 13px;
}
.hot text {
  fill: var(--rust);
}
</style>
