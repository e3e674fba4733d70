<script setup lang="ts">
// What the radio draws: at each level, receiving, standing by, switched off; no power is needed.
import { computed, ref } from 'vue'
import { useReview } from '../../reviews/review'
import { watts } from '../../shared/figures'
import { remember } from '../../shared/remember'
import type { Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useEntry } from '../entry/useEntry'
import { amps } from './words'

type Measured = Schemas['SupplyMeasured']
const within = remember(`ammeter ${useReview().id}`, '')
const entry = useEntry<Measured>('supply', (text) => ({ text, within_pct: toldNumber(within.value) }))
const field = ref<{ focus: () => void }>()
const name = (m: Measured) => m.state || m.at
// The last figure of each level and state, the one shown among them: how they stand to each other.
const ladder = computed(() => {
  const of = new Map<string, Measured>()
  for (const m of entry.here.value.filter((m) => m.standing === 'in-force' && m.counts)) of.set(name(m), m)
  if (entry.live.value) of.set(name(entry.live.value), entry.live.value)
  return [...of.values()].sort((a, b) => b.amps - a.amps)
})
const most = computed(() => Math.max(...ladder.value.map((m) => Math.max(m.amps, m.claimed_a ?? 0)), 1e-9))
// From a milliampere to the most on one axis that leaves room for both.
const least = 1e-3
const x = (a: number) => 130 + (Math.log10(Math.max(a, least) / least) / Math.log10(Math.max(most.value, 10 * least) / least)) * 360
</script>

<template>
  <EntryScreen :entry="entry" placeholder="high 1.4a 13.8v 5w" title="Draws of this band" none="None yet. Type the level or state and what the supply shows: high 1.4a 13.8v 5w, receiving 0.14, standby 45mA, off 2mA." :keys="{ r: () => field?.focus() }">
    <template #how>
      <b>{{ entry.shown.value ? name(entry.shown.value) : 'draw' }}</b>
      <small>{{ entry.shown.value?.within_pct != null ? `ammeter within ${entry.shown.value.within_pct} %` : 'ammeter not told' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown ? amps(shown.amps).split(' ')[0] : '–' }} <small>{{ shown ? amps(shown.amps).split(' ')[1] : 'A' }}</small></template>
    <template #beside="{ shown }">
      <span>±{{ amps(shown.expanded_uncertainty_a) }}, k = 2</span>
      <span v-if="shown.claimed_a != null"><RulingShape :verdict="shown.verdict ?? 'no-claim'" :size="20" /> at most {{ amps(shown.claimed_a) }} claimed</span>
      <span v-else class="soft">held against no claim</span>
      <span v-if="shown.input_w != null">{{ shown.input_w.toPrecision(3) }} W from the supply<template v-if="shown.efficiency_percent != null">, {{ shown.efficiency_percent.toFixed(0) }} % efficient, {{ shown.heat_w!.toPrecision(3) }} W heat</template></span>
      <span v-if="shown.w != null" class="soft">{{ watts(shown.w) }}{{ shown.from_power ? ', as measured at this level' : '' }}</span>
    </template>
    <template #picture="{ shown }">
      <svg v-if="ladder.length" :viewBox="`0 0 600 ${26 * ladder.length + 8}`" role="img" :aria-label="ladder.map((m) => `${name(m)} ${amps(m.amps)}`).join(', ')">
        <g v-for="(m, i) in ladder" :key="name(m)" :transform="`translate(0 ${26 * i})`">
          <text x="120" y="19" text-anchor="end" :class="{ ink: m === shown }">{{ name(m) }}</text>
          <rect x="130" y="6" :width="Math.max(2, x(m.amps) - 130)" height="16" :class="m === shown ? 'now' : 'bar'" />
          <line v-if="m.claimed_a != null" :x1="x(m.claimed_a)" :x2="x(m.claimed_a)" y1="1" y2="27" class="claimed" />
          <text :x="Math.max(x(m.amps), m.claimed_a != null && x(m.claimed_a) - x(m.amps) < 70 ? x(m.claimed_a) : 0) + 8" y="19">{{ amps(m.amps) }}</text>
        </g>
      </svg>
      <p v-if="shown.doubt" class="doubt" data-doubt>Too close to call: {{ shown.doubt }}</p>
    </template>
    <template #echo="{ shown }">{{ name(shown) }} {{ amps(shown.amps) }}<template v-if="shown.volts != null"> at {{ shown.volts }} V</template></template>
    <template #keys><span><kbd>r</kbd> how well the ammeter reads</span> </template>
    <template #aside>
      <label class="soft">The ammeter is within, %<ElInput ref="field" v-model="within" name="ammeter" inputmode="decimal" placeholder="not told" @keyup.enter="entry.line.value?.focus()" /></label>
      <p class="soft">Not told, no claim is ruled by it. Volts and watts on the line give efficiency and heat; watts left out are those measured at the level. Bars: each ten times of current is as wide as the next.</p>
      <p class="danger">Key into a closed load, briefly. Set the supply and its limit before the radio is on it; a shorted battery burns. The radio’s ratings and your licence come first.</p>
    </template>
    <template #row="{ of }"><b>{{ amps(of.amps) }}</b> <span class="soft">{{ name(of) }}</span></template>
  </EntryScreen>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 640px;
}
.bar {
  fill: var(--press);
}
.now {
  fill: var(--ink);
}
.claimed {
  stroke: var(--ink);
  stroke-dasharray: 5 4;
  stroke-width: 2;
}
text {
  font-size: 15px;
  fill: var(--soft);
}
.ink {
  fill: var(--ink);
}
</style>
