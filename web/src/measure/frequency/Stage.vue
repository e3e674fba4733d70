<script setup lang="ts">
// How far a transmitter is off its frequency: typed as a counter shows it, or as an error.
import { computed, ref } from 'vue'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { useBench } from '../../bench/bench'
import { useInstruments } from '../../shared/instruments'
import { remember } from '../../shared/remember'
import { api, ask, wordsOf, type Schemas } from '../../shared/server'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useReview } from '../../reviews/review'
import { useEntry } from '../entry/useEntry'
import { hertz, ppm } from './words'

type Measured = Schemas['FrequencyMeasured']
const reference = remember(`frequency reference ${useReview().id}`, '') // of this review: another was taken with another counter
const told = computed(() => toldNumber(reference.value))
const entry = useEntry<Measured>('frequency', (text) => ({ text, reference_ppm: told.value, by: text === read.value?.text ? read.value.by : undefined }))
// A counter with a socket is read by its key.
const known = useInstruments()
const counter = computed(() => useBench().owned.find((k) => k.kind === 'counter' && k.socket))
const read = ref<Schemas['Read'] | null>(null)
const wrong = ref('')
async function readCounter() {
  const item = counter.value
  if (!item) return
  wrong.value = ''
  try {
    const got = await known.connect((aware) => ask(api.POST('/api/v1/kit/{id}/read', { params: { path: { id: item.id }, query: { aware } }, body: {} })))
    read.value = got
    if (!entry.text.value.trim()) entry.text.value = got.text
  } catch (e) {
    wrong.value = wordsOf(e)
  }
}
const field = ref<{ focus: () => void }>()
// A claim of so many ppm, or the scale of what was found: where the mark stands on it.
const scale = (m: Measured) => Math.max(1, 1.6 * (m.claimed_ppm ?? 0), 1.3 * (Math.abs(m.result!.error_ppm) + m.result!.expanded_uncertainty_ppm))
const x = (v: number, m: Measured) => 300 + (v / scale(m)) * 280
</script>

<template>
  <EntryScreen :entry="entry" placeholder="145.500312" title="Frequencies of this band" none="None yet. Key the radio into a load and type what the counter shows, or the error with its sign, such as +312Hz or 2.1ppm; the beginning and the end of a key-up behind each other, +96Hz +214Hz." :keys="{ r: () => field?.focus(), ...(counter ? { i: () => void readCounter() } : {}) }">
    <template #how>
      <b>{{ told == null ? '±?' : `±${reference.trim()}` }} <small>ppm</small></b>
      <small class="soft">{{ told == null ? 'reference not told' : 'reference' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown?.result ? ppm(shown.result.error_ppm) : '–' }} <small>ppm</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result">
        <span>{{ hertz(shown.result.error_hz) }}<template v-if="shown.reference_ppm != null">, ±{{ shown.result.expanded_uncertainty_hz.toFixed(0) }} Hz, k = 2</template><template v-else>, ± not known</template></span>
        <span v-if="shown.drift_hz != null">drifts by {{ hertz(shown.drift_hz) }} over the key-up</span>
        <span v-if="shown.claimed_ppm != null"><RulingShape :verdict="shown.verdict ?? 'no-claim'" :size="20" /> {{ shown.claimed_ppm }} ppm claimed</span>
        <span v-else class="soft">nothing claimed</span>
      </template>
    </template>
    <template #picture="{ shown }">
      <svg v-if="shown.result" viewBox="0 0 600 64" role="img" :aria-label="`${ppm(shown.result.error_ppm)} ppm off${shown.reference_ppm != null ? `, ± ${shown.result.expanded_uncertainty_ppm.toFixed(2)} ppm` : ''}${shown.claimed_ppm != null ? `, of ${shown.claimed_ppm} ppm claimed` : ''}`">
        <rect v-if="shown.claimed_ppm != null" :x="x(-shown.claimed_ppm, shown)" y="18" :width="x(shown.claimed_ppm, shown) - x(-shown.claimed_ppm, shown)" height="14" class="claimed" />
        <line x1="10" x2="590" y1="25" y2="25" class="axis" /><line x1="300" x2="300" y1="14" y2="36" class="axis" />
        <text x="300" y="54" text-anchor="middle">nominal</text>
        <template v-if="shown.claimed_ppm != null"><text v-for="s in [-1, 1]" :key="s" :x="x(s * shown.claimed_ppm, shown)" y="54" text-anchor="middle">{{ ppm(s * shown.claimed_ppm) }} ppm</text></template>
        <line :x1="x(shown.result.error_ppm - shown.result.expanded_uncertainty_ppm, shown)" :x2="x(shown.result.error_ppm + shown.result.expanded_uncertainty_ppm, shown)" y1="25" y2="25" class="whisker" />
        <polygon :points="`${x(shown.result.error_ppm, shown)},26 ${x(shown.result.error_ppm, shown) - 8},8 ${x(shown.result.error_ppm, shown) + 8},8`" class="mark" />
      </svg>
    </template>
    <template #echo="{ shown }">{{ shown.result ? `${(shown.result.measured_hz / 1e6).toFixed(6)} MHz, ${hertz(shown.result.error_hz)} from ${(shown.frequency_hz / 1e6).toFixed(6)} MHz` : '' }}</template>
    <template #keys><span><kbd>r</kbd> the reference, ppm</span> <span v-if="counter"><kbd>i</kbd> read {{ counter.name }}</span> </template>
    <template #aside>
      <label class="soft">The counter’s own reference is within, ppm<ElInput ref="field" v-model="reference" name="reference" inputmode="decimal" placeholder="not told" @keyup.enter="entry.line.value?.focus()" /></label>
      <p class="soft">Not told, nothing is ruled by it: a counter may be further off than the radio. Its manual says how far; one locked to GPS is within 0.001 ppm.</p>
      <p v-if="wrong" class="danger" role="alert">{{ wrong }}</p>
      <p class="danger">Key into a closed load, briefly, with the counter behind a sampler or attenuator: its input takes milliwatts. The radio’s and the instrument’s ratings and your licence come first.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result ? `${ppm(of.result.error_ppm)} ppm` : 'void' }}</b></template>
  </EntryScreen>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 640px;
}
.claimed {
  fill: var(--press);
}
.axis {
  stroke: var(--soft);
}
.whisker {
  stroke: var(--ink);
  stroke-width: 5;
}
.mark {
  fill: var(--ink);
}
text {
  font-size: 14px;
  fill: var(--soft);
}
</style>
