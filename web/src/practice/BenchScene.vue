<script setup lang="ts">
// The bench seen from above, in ink: the radio with what it shows, and the parts it is connected to as
// they lie there. Heat shows on what takes power; what is broken stays so.
import { computed } from 'vue'
import { useBench } from '../bench/bench'
import { megahertz } from '../shared/figures'
import type { Practice } from './practice'

const props = defineProps<{ now: Practice }>()
const bench = useBench()
const parts = computed(() => {
  const path = bench.paths.find((p) => p.id === props.now.wired)
  return (path?.parts ?? []).map((p) => {
    const k = bench.byId.get(p.kit_id)
    const kind = k?.kind ?? ''
    return { id: p.kit_id, name: k?.name ?? 'gone', kind, heat: props.now.seen.heat[p.kit_id] ?? 0, broken: props.now.seen.broken.includes(p.kit_id) || (kind === 'analyzer' && props.now.seen.broken.includes('analyzer')) }
  })
})
const width = computed(() => Math.min(170, 700 / Math.max(1, parts.value.length)))
const x = (i: number) => 230 + i * width.value
// Each kind is drawn as what it is.
const shapes: Record<string, string> = {
  adapter: 'M-14 -4h28v8h-28z', cable: 'M-26 0c8 -14 18 14 26 0s18 -14 26 0', attenuator: 'M-20 -11h40v22h-40zM-12 -11v22M-4 -11v22M4 -11v22M12 -11v22', load: 'M-24 -16h48v32h-48zM-18 -16v32M-10 -16v32M-2 -16v32M6 -16v32M14 -16v32',
  'through-meter': 'M-26 -20h52v40h-52zM-18 6a20 20 0 0 1 36 0M0 8l9 -12', 'terminating-meter': 'M-26 -20h52v40h-52zM-18 6a20 20 0 0 1 36 0M0 8l9 -12', analyzer: 'M-32 -22h64v44h-64zM-26 -16h36v28h-36zM-24 10l6 -2 2 -14 2 14 8 1 2 -5 2 5 6 0M16 -12h8M16 -4h8M16 4h8',
}
const shape = (kind: string) => shapes[kind] ?? shapes.attenuator!
const tight = (name: string) => (name.length > width.value / 7 ? `${name.slice(0, Math.floor(width.value / 7) - 1)}…` : name)
</script>

<template>
  <svg viewBox="0 0 940 200" class="scene" role="img" :aria-label="`The radio, showing ${megahertz(now.seen.tuned_hz)} and ${now.seen.level}, connected to ${parts.map((p) => p.name + (p.broken ? ', broken' : '')).join(', then ')}`">
    <g class="radio" :class="{ keyed: now.seen.keyed }">
      <rect x="40" y="22" width="104" height="158" rx="10" />
      <rect class="display" x="52" y="38" width="80" height="44" rx="3" />
      <text x="92" y="58" text-anchor="middle" class="shown" data-shown>{{ (now.seen.tuned_hz / 1e6).toFixed(3) }}</text>
      <text x="92" y="75" text-anchor="middle" class="shown" data-level>{{ now.seen.level }}{{ now.seen.keyed ? ' TX' : '' }}</text>
      <rect x="56" y="94" width="72" height="26" rx="4" class="ptt" />
      <text x="92" y="111" text-anchor="middle">key</text>
      <text x="92" y="146" text-anchor="middle" class="label">serial</text>
      <text x="92" y="162" text-anchor="middle" class="label" data-serial>{{ now.label }}</text>
    </g>
    <path class="lead" :d="`M144 100H${x(parts.length - 1) + width / 2}`" />
    <g v-for="(p, i) in parts" :key="p.id" :transform="`translate(${x(i) + width / 2} 100)`" :class="{ hot: p.heat > 0.8 || p.broken }">
      <path class="body" :d="shape(p.kind)" />
      <path v-for="n in Math.min(3, Math.round(p.heat * 3))" :key="n" class="heat" :d="`M${-16 + n * 8} -30c4 -5 -4 -8 0 -14`" />
      <path v-if="p.broken" class="broken" d="M-26 -22l52 44M26 -22l-52 44" />
      <text y="52" text-anchor="middle">{{ tight(p.name) }}</text>
      <text v-if="p.broken" y="67" text-anchor="middle" class="why">broken</text>
      <text v-else-if="p.heat > 0.05" y="67" text-anchor="middle" class="why">{{ p.heat > 0.8 ? 'hot' : p.heat > 0.3 ? 'warm' : '' }}</text>
    </g>
  </svg>
</template>

<style scoped>
.scene {
  width: 100%;
  height: auto;
}
rect,
path {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.display {
  fill: var(--press);
}
.keyed .ptt {
  fill: var(--ink);
}
.keyed .ptt + text {
  fill: var(--sheet);
}
.lead {
  fill: none;
}
.heat {
  fill: none;
}
.hot .body,
.hot .heat,
.broken {
  stroke: var(--rust);
}
.hot .why {
  fill: var(--rust);
}
text {
  font-size: 12px;
  fill: var(--soft);
}
.shown {
  font-family: 'IBM Plex Mono', monospace;
  font-size: 14px;
  fill: var(--ink);
}
.label {
  font-size: 11px;
}
</style>
