<script setup lang="ts">
// The same key-ups through two wirings: each pair's difference in dB over its power. A loss
// lies flat; what fits is drawn with its room.
import { computed } from 'vue'
import { db, watts } from '../../shared/figures'
import type { Schemas } from '../../shared/server'

const props = defineProps<{ pair: Schemas['PowerPaired'] }>()
const W = 430
const H = 190
const lo = computed(() => Math.min(0, ...props.pair.loss_db) - props.pair.uncertainty_db - 0.3)
const hi = computed(() => Math.max(0, ...props.pair.loss_db) + props.pair.uncertainty_db + 0.3)
const most = computed(() => Math.max(...props.pair.pairs.map((p) => p.a_w)))
const least = computed(() => Math.min(...props.pair.pairs.map((p) => p.a_w)))
const X = (w: number) => 60 + (most.value === least.value ? 0.5 : Math.log(w / least.value) / Math.log(most.value / least.value)) * (W - 110)
const Y = (d: number) => 10 + ((hi.value - d) / (hi.value - lo.value)) * (H - 50)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`${pair.a} less ${pair.b}: ${pair.loss_db.map((d, i) => `${watts(pair.pairs[i]!.a_w)} ${db(d)}`).join(', ')}`">
      <rect class="room" x="40" :width="W - 60" :y="Y(pair.uncertainty_db)" :height="Y(-pair.uncertainty_db) - Y(pair.uncertainty_db)" />
      <line class="zero" x1="40" :x2="W - 20" :y1="Y(0)" :y2="Y(0)" />
      <text x="36" :y="Y(0) + 5" text-anchor="end">0 dB</text>
      <line v-if="pair.fits === 'loss'" class="fit" x1="40" :x2="W - 20" :y1="Y(pair.mean_loss_db)" :y2="Y(pair.mean_loss_db)" />
      <g v-for="(d, i) in pair.loss_db" :key="i">
        <circle :cx="X(pair.pairs[i]!.a_w)" :cy="Y(d)" r="6" />
        <text class="on" :x="X(pair.pairs[i]!.a_w)" :y="Y(d) - 12" text-anchor="middle">{{ db(d) }}</text>
        <text :x="X(pair.pairs[i]!.a_w)" :y="H - 22" text-anchor="middle">{{ watts(pair.pairs[i]!.a_w) }}</text>
        <text :x="X(pair.pairs[i]!.a_w)" :y="H - 5" text-anchor="middle">{{ pair.of[i] }}</text>
      </g>
    </svg>
    <figcaption>
      <b>{{ pair.a }}, and {{ pair.b }}</b>
      <p data-fits>{{ pair.detail }}.</p>
      <p v-if="pair.coax" class="soft">{{ pair.coax }}.</p>
      <p v-if="pair.deciding" class="soft">What would decide: {{ pair.deciding }}.</p>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  display: grid;
  grid-template-columns: 430px 1fr;
  gap: 24px;
  margin: 0 0 18px;
  align-items: start;
}
.room {
  fill: var(--ink);
  opacity: 0.09;
}
.zero {
  stroke: var(--soft);
}
.fit {
  stroke: var(--ink);
  stroke-dasharray: 6 4;
}
circle {
  fill: var(--ink);
}
text {
  font-size: 13px;
  fill: var(--soft);
}
.on {
  fill: var(--ink);
  font-size: 15px;
}
p {
  margin: 4px 0;
}
</style>
