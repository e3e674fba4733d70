<script setup lang="ts">
// A meter to be read with one's eyes: digits that bounce, and a needle over a scale of watts, which stands
// elsewhere for who looks from the side.
import { computed, ref } from 'vue'

const props = defineProps<{ watts: number; blind: boolean; full: number }>()
// The scale is not linear, as that of a diode is not: its low end is crowded.
const at = (w: number) => Math.sqrt(Math.min(1.05, Math.max(0, w / props.full)))
const angle = (w: number) => -62 + 124 * at(w)
const on = (w: number, r: number) => {
  const a = ((angle(w) - 90) * Math.PI) / 180
  return [110 + r * Math.cos(a), 112 + r * Math.sin(a)] as const
}
// The needle lies above the scale: from the side it points past it. One sits beside a meter until one leans over.
const eye = ref(0.6)
function lean(e: MouseEvent) {
  const box = (e.currentTarget as SVGElement).getBoundingClientRect()
  eye.value = ((e.clientX - box.left) / box.width - 0.5) * 2
}
const tip = computed(() => {
  const a = ((angle(props.blind ? 0 : props.watts) + 3.5 * eye.value - 90) * Math.PI) / 180
  return [110 + 88 * Math.cos(a), 112 + 88 * Math.sin(a)] as const
})
const marks = computed(() => [0, 0.05, 0.1, 0.2, 0.3, 0.5, 0.7, 1].map((f) => f * props.full))
</script>

<template>
  <svg viewBox="0 0 220 136" class="face" role="img" aria-label="The meter: read the needle from straight ahead, or the digits" @mousemove="lean" @mouseleave="eye = 0.6">
    <g v-for="w in marks" :key="w">
      <line :x1="on(w, 84)[0]" :y1="on(w, 84)[1]" :x2="on(w, 92)[0]" :y2="on(w, 92)[1]" />
      <text :x="on(w, 102)[0]" :y="on(w, 102)[1] + 3" text-anchor="middle">{{ Number(w.toPrecision(2)) }}</text>
    </g>
    <line class="needle" x1="110" y1="112" :x2="tip[0]" :y2="tip[1]" />
    <circle cx="110" cy="112" r="4" />
    <text x="110" y="52" text-anchor="middle">W</text>
    <text class="digits" x="110" y="132" text-anchor="middle" data-digits>{{ blind ? '-.--' : watts.toFixed(2) }} W</text>
  </svg>
</template>

<style scoped>
.face {
  width: 100%;
}
line {
  stroke: var(--ink);
}
circle {
  fill: var(--ink);
}
.needle {
  stroke-width: 1.6;
  transition: all 0.25s ease-out;
}
text {
  font-size: 9px;
  fill: var(--soft);
}
.digits {
  font-size: 15px;
  font-family: 'IBM Plex Mono', monospace;
  fill: var(--ink);
}
</style>
