<script setup lang="ts">
// The afternoon along one axis: wirings as blocks, key-ups in them, the heat that goes into
// the load and what is left of the battery under it.
import { computed } from 'vue'
import { watts } from '../../shared/figures'
import type { Schemas } from '../../shared/server'
import type { Step } from './steps'

const props = defineProps<{ plan: Schemas['KeyingPlan']; at: string }>()
const emit = defineEmits<{ choose: [s: Step] }>()
const whole = computed(() => Math.max(1, props.plan.bench_s))
const x = (s: number) => (s / whole.value) * 1000
const going = computed(() => props.plan.steps.filter((s) => s.counts))
const groups = computed(() => {
  const out: { path: string; kind: string; from: number; first: number; to: number; n: number }[] = []
  for (const s of going.value) {
    const last = out.at(-1)
    const to = s.start_s! + props.plan.key_s + props.plan.rest_s
    if (last && last.path === s.path) {
      last.to = to
      last.n++
    } else out.push({ path: s.path, kind: s.kind, from: last?.to ?? 0, first: s.start_s!, to, n: 1 })
  }
  return out
})
// A mark every few minutes: at most nine of them.
const ticks = computed(() => {
  const all = whole.value / 60
  const step = [1, 2, 5, 10, 15, 30, 60, 120].find((m) => all / m <= 8) ?? 240
  return Array.from({ length: Math.floor(all / step) + 1 }, (_, i) => i * step).slice(1)
})
const hottest = computed(() => Math.max(1, ...going.value.map((s) => s.heat_j)))
const total = computed(() => going.value.reduce((sum, s) => sum + s.heat_j, 0))
const left = computed(() => (props.plan.battery_of && props.plan.battery_mah != null ? 1 - props.plan.battery_mah / props.plan.battery_of : null))
const spent = computed(() => props.plan.steps.filter((s) => !s.counts).length)
</script>

<template>
  <figure class="ribbon">
    <svg viewBox="0 0 1000 150" preserveAspectRatio="none" role="img" :aria-label="`${plan.rig_changes} wirings, ${going.length} key-ups, ${Math.round(plan.bench_s / 60)} minutes`">
      <g v-for="g in groups" :key="g.from">
        <rect class="rig" :x="x(g.from)" y="26" :width="x(g.first - g.from)" height="44" />
        <rect class="group" :x="x(g.first)" y="26" :width="x(g.to - g.first)" height="44" />
      </g>
      <rect v-for="s in going" :key="s.key" class="step" :class="{ done: s.done, at: s.key === at }" :x="x(s.start_s!)" y="26" :width="Math.max(2, x(plan.key_s))" height="44" @click="emit('choose', s)" />
      <rect v-for="s in going" :key="`heat ${s.key}`" class="heat" :x="x(s.start_s!)" :y="116 - 36 * (s.heat_j / hottest)" :width="Math.max(2, x(plan.key_s))" :height="36 * (s.heat_j / hottest)" />
      <line class="ground" x1="0" x2="1000" y1="116" y2="116" />
      <polyline v-if="left != null" class="battery" :points="`0,126 1000,${126 + 22 * (1 - left)}`" />
    </svg>
    <span v-for="m in ticks" :key="m" class="tick soft" :style="{ left: `${x(m * 60) / 10}%` }">{{ m }}</span>
    <span v-for="g in groups" :key="`name ${g.from}`" class="name" :style="{ left: `${x(g.first) / 10}%`, width: `${x(g.to - g.first) / 10}%` }" :title="g.path">{{ g.path }}</span>
    <figcaption class="soft">
      <span>pale: wiring; dark: keyed, darkest what is done</span>
      <span>heat into the load by the claims, {{ (total / 1000).toFixed(1) }} kJ in all, most at one key-up {{ watts(hottest / plan.key_s) }} for {{ plan.key_s }} s</span>
      <span v-if="left != null">battery to {{ Math.round(left * 100) }} %</span>
      <span v-if="spent">{{ spent }} {{ spent === 1 ? 'step' : 'steps' }} cannot count</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.ribbon {
  position: relative;
  margin: 6px 0 12px;
}
svg {
  width: 100%;
  height: 150px;
  display: block;
}
.rig {
  fill: var(--hair);
  opacity: 0.5;
}
.group {
  fill: none;
  stroke: var(--soft);
  vector-effect: non-scaling-stroke;
}
.step {
  fill: var(--soft);
  opacity: 0.55;
  cursor: pointer;
}
.step.done {
  fill: var(--ink);
  opacity: 1;
}
.step.at {
  fill: var(--ink);
  stroke: var(--ink);
  stroke-width: 3;
  vector-effect: non-scaling-stroke;
  opacity: 1;
}
.heat {
  fill: var(--soft);
  opacity: 0.45;
}
.ground {
  stroke: var(--hair);
  vector-effect: non-scaling-stroke;
}
.battery {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.tick {
  position: absolute;
  top: 118px;
  font-size: 12px;
  transform: translateX(-50%);
}
.tick::after {
  content: ' min';
}
.name {
  position: absolute;
  top: 2px;
  font-size: 14px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  font-size: 13px;
}
</style>
