<script setup lang="ts">
// One scale for the claim with its tolerance, the legal maximum and the reading.
// Decibels from the claim: equal factors are equal lengths.
import { computed } from 'vue'
import type { Cell, Reading, Schemas } from '../../shared/server'
import { watts } from '../../shared/figures'

const props = defineProps<{ cell: Cell; reading: Reading | null; rules: Schemas['RecordRules']; ghost?: Schemas['KeyingGhost'] | null }>()
const W = 760
const from = -10
const to = 4
const x = (dB: number) => ((Math.min(Math.max(dB, from), to) - from) / (to - from)) * W

const delta = computed(() => props.reading?.against_claim?.delta_db ?? null)
const low = computed(() => props.reading?.against_claim?.low_delta_db ?? from)
const high = computed(() => props.reading?.against_claim?.high_delta_db ?? to)
const bound = computed(() => (props.rules.scheme === 'tolerance' ? -props.rules.tolerance_db : null))
const dB = (w: number) => 10 * Math.log10(w / props.cell.claimed_w)
const most = computed(() => (props.reading?.legal_max_w ? dB(props.reading.legal_max_w) : null))
const earlier = computed(() => (props.ghost && props.ghost.w > 0 ? dB(props.ghost.w) : null))
const legal = computed(() => (props.reading?.legal_max_w ? `legal maximum ${watts(props.reading.legal_max_w)}: ${props.reading.legal_by}` : ''))
</script>

<template>
  <svg :viewBox="`0 0 ${W} 62`" role="img" aria-label="The reading beside the claim, in dB">
    <line class="rule" x1="0" :x2="W" y1="34" y2="34" />
    <g v-for="d in [-10, -6, -3, 0, 3]" :key="d">
      <line class="rule" :x1="x(d)" :x2="x(d)" y1="30" y2="38" />
      <text :x="x(d)" y="54" :text-anchor="d === -10 ? 'start' : 'middle'">{{ d === 0 ? `claim ${cell.claimed_w} W` : `${d < 0 ? '−' : '+'}${Math.abs(d)} dB` }}</text>
    </g>
    <rect v-if="bound != null" class="tolerance" :x="x(bound)" y="27" :width="x(0) - x(bound)" height="14" />
    <line class="claim" :x1="x(0)" :x2="x(0)" y1="16" y2="44" />
    <g v-if="most != null && most <= to"><line class="legal" :x1="x(most)" :x2="x(most)" y1="10" y2="44" /><text :x="x(most)" y="8" text-anchor="end">legal maximum</text></g>
    <path v-if="earlier != null" class="earlier" :d="`M${x(earlier)} 30l-8-18h16z`"><title>{{ `${ghost!.title}: ${watts(ghost!.w)}` }}</title></path>
    <g v-if="delta != null">
      <line class="whisker" :x1="x(low)" :x2="x(high)" y1="12" y2="12" />
      <path class="hand" :d="`M${x(delta)} 30l-8-18h16z`" />
    </g>
    <title>{{ legal }}</title>
  </svg>
  <p v-if="legal || earlier != null" class="soft">{{ legal }}<template v-if="earlier != null">{{ legal ? '; ' : '' }}outlined: {{ watts(ghost!.w) }} of {{ ghost!.title }}</template></p>
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
.claim {
  stroke: var(--ink);
  stroke-width: 3;
}
.tolerance {
  fill: var(--ink);
  opacity: 0.13;
}
.hand {
  fill: var(--ink);
}
.earlier {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.5;
  stroke-dasharray: 3 2;
}
.legal {
  stroke: var(--ink);
  stroke-width: 2;
  stroke-dasharray: 6 3;
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
p {
  font-size: 14px;
  margin: 0;
}
</style>
