<script setup lang="ts">
// One scale of level: what the generator sends, what the path takes, what arrives at the
// receiver with its uncertainty, and what is claimed. Less is better, and lies left.
import { computed } from 'vue'
import { dbm, fine } from '../../shared/figures'
import type { Schemas } from '../../shared/server'

const props = defineProps<{ measured: Schemas['SensitivityMeasured'] }>()
const W = 760
const at = computed(() => props.measured.result!.at_connector_dbm!)
const sent = computed(() => props.measured.result!.generator_dbm)
const u = computed(() => props.measured.result!.expanded_uncertainty_db ?? 0)
const claim = computed(() => (props.measured.result!.claim_delta_db == null ? null : at.value - props.measured.result!.claim_delta_db))
const from = computed(() => Math.min(at.value - u.value, claim.value ?? at.value) - 6)
const to = computed(() => Math.max(sent.value, at.value + u.value, claim.value ?? at.value) + 6)
const x = (v: number) => ((v - from.value) / (to.value - from.value)) * W
const ticks = computed(() => {
  const step = to.value - from.value > 40 ? 10 : 5
  const out = []
  for (let v = Math.ceil(from.value / step) * step; v <= to.value; v += step) out.push(v)
  return out
})
</script>

<template>
  <svg :viewBox="`0 0 ${W} 96`" role="img" :aria-label="`The generator sends ${dbm(sent)}, ${dbm(at)} arrive${claim == null ? '' : `, ${dbm(claim)} are claimed`}`">
    <line class="rule" x1="0" :x2="W" y1="64" y2="64" />
    <g v-for="v in ticks" :key="v">
      <line class="rule" :x1="x(v)" :x2="x(v)" y1="60" y2="68" />
      <text :x="x(v)" y="86" text-anchor="middle">{{ dbm(v).replace('.0', '') }}</text>
    </g>
    <g v-if="sent - at > 0.05">
      <path class="loss" :d="`M${x(sent)} 26H${x(at) + 8}m8 -5l-8 5 8 5`" />
      <text :x="(x(sent) + x(at)) / 2" y="18" text-anchor="middle">the path takes {{ fine(sent - at) }}</text>
      <line class="sent" :x1="x(sent)" :x2="x(sent)" y1="20" y2="64" />
    </g>
    <g v-if="claim != null">
      <line class="claim" :x1="x(claim)" :x2="x(claim)" y1="44" y2="74" />
      <text :x="x(claim)" y="40" :text-anchor="claim > at ? 'start' : 'end'" :dx="claim > at ? 4 : -4">claim</text>
    </g>
    <line class="whisker" :x1="x(at - u)" :x2="x(at + u)" y1="52" y2="52" />
    <path class="hand" :d="`M${x(at)} 62l-8-18h16z`" />
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  height: auto;
  display: block;
  overflow: visible;
}
.rule {
  stroke: var(--soft);
}
.loss {
  stroke: var(--soft);
  stroke-width: 1.5;
  fill: none;
}
.sent {
  stroke: var(--soft);
  stroke-dasharray: 3 3;
}
.claim {
  stroke: var(--ink);
  stroke-width: 3;
}
.hand {
  fill: var(--ink);
}
.whisker {
  stroke: var(--ink);
  stroke-width: 4;
  opacity: 0.35;
}
text {
  font-size: 15px;
  fill: var(--soft);
}
</style>
