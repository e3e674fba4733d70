<script setup lang="ts">
// How wide an emission is: in a sweep dropped, or in one that was taken on the emissions.
import { computed, ref } from 'vue'
import { useReview } from '../../reviews/review'
import { remember } from '../../shared/remember'
import { api, ask, useAsked, type Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import DropFile from '../entry/DropFile.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useEntry } from '../entry/useEntry'
import { useFile } from '../entry/useFile'
import SweepPlot from './SweepPlot.vue'
import { kilohertz, signalWords, type Signal } from './words'

type Measured = Schemas['OccupiedMeasured']
type Draft = Schemas['OccupiedDraft']
const book = useReview()
const how = remember(`occupied ${book.id}`, { signal: 'voice' as Signal, hold: '' as NonNullable<Draft['hold']>, rbw: '', below: '', unit: '' as NonNullable<Draft['unit']> })
const file = useFile(() => entry.text, () => entry.line.value?.focus())
const draft = (text: string): Draft => {
  const of = file.of(text)
  return { text, file: of?.content ?? '', sweep: of?.sweep, signal: how.value.signal, hold: how.value.hold, rbw_hz: toldNumber(how.value.rbw), below_db: toldNumber(how.value.below), unit: how.value.unit }
}
const entry = useEntry<Measured>('occupied', draft, { of: (m) => m.signal === how.value.signal })
const rbw = ref<{ focus: () => void }>()
const signals = Object.keys(signalWords) as Signal[]
const keys = { t: () => (how.value.signal = signals[(signals.indexOf(how.value.signal) + 1) % signals.length]!), r: () => rbw.value?.focus() }
const others = (shown: Measured) => entry.here.value.filter((m) => m.id !== shown.id && m.standing === 'in-force' && m.counts && m.result)

// Sweeps of the emissions that lie close about the carrier of this band.
const widest = 2e6
const sweeps = useAsked('emissions measured', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/emissions', { params: { path: { id } } })))
const close = computed(() => {
  const hz = entry.cell.value ? book.frequencyOf(entry.cell.value, 'occupied') : 0
  return (sweeps.answer.value ?? []).filter((s) => !s.look && !s.heard && s.standing === 'in-force' && s.start_hz <= hz && hz <= s.stop_hz && s.stop_hz - s.start_hz <= widest)
})
const trouble = ref('')
async function takeSweep(s: { id: string; name: string; rbw_hz: number; hold: string }) {
  trouble.value = ''
  const got = await fetch(`/api/v1/measurements/${s.id}/file`)
  if (!got.ok) return void (trouble.value = 'The file of that sweep cannot be had now.')
  if (s.rbw_hz) how.value.rbw = String(s.rbw_hz)
  how.value.hold = s.hold as NonNullable<Draft['hold']>
  file.take({ name: s.name.replaceAll('?', ''), content: await got.text(), sweep: s.id })
}
</script>

<template>
  <EntryScreen :entry="entry" placeholder="drop a sweep, or choose" title="Sweeps of this band" none="None yet. Save a sweep of some three times the emission, such as 50 kHz about the carrier, with a resolution bandwidth of a few hundred Hz; speak loudly through it, on max hold; drop the file." :keys="keys">
    <template #how>
      <b>{{ signalWords[how.signal] }}</b>
      <small>{{ how.rbw.trim() ? `resolution ${how.rbw.trim()} Hz` : 'resolution as the file says' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown?.result ? kilohertz(shown.result.occupied_hz) : '–' }} <small>kHz</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result">
        <span>99 % of the power, ±{{ kilohertz(shown.result.expanded_uncertainty_hz) }} kHz by the filter</span>
        <span v-if="shown.limit_hz != null"><RulingShape :verdict="shown.verdict ?? 'no-limit'" :size="20" /> at most {{ kilohertz(shown.limit_hz) }} kHz authorised</span>
        <span v-else class="soft">held against no limit</span>
        <span class="soft">{{ shown.result.below_hz == null ? `does not fall ${shown.below_db} dB within the sweep` : `${kilohertz(shown.result.below_hz)} kHz at ${shown.below_db} dB below its highest` }}; noise holds {{ shown.result.noise_share_pct < 0.01 ? 'under 0.01' : shown.result.noise_share_pct.toPrecision(2) }} %</span>
        <span class="soft">middle {{ kilohertz(shown.result.centre_hz - shown.frequency_hz) }} kHz from nominal</span>
      </template>
    </template>
    <template #picture="{ shown }">
      <SweepPlot v-if="shown.result" :shown="shown" :others="others(shown)" />
      <p v-if="shown.doubt" class="doubt" data-doubt>Too close to call: {{ shown.doubt }}</p>
      <p v-for="f in shown.result?.findings ?? []" :key="f.code" class="doubt">{{ f.detail }}</p>
    </template>
    <template #echo="{ shown }">{{ shown.result ? `${(shown.result.low_hz / 1e6).toFixed(6)} to ${(shown.result.high_hz / 1e6).toFixed(6)} MHz, ${signalWords[shown.signal as Signal]}` : '' }}</template>
    <template #keys><span><kbd>t</kbd> voice, tone, data, none</span> <span><kbd>r</kbd> resolution bandwidth</span> </template>
    <template #aside>
      <DropFile what="a sweep (CSV)" name="over-carrier" accept=".csv,.txt,.tsv,text/plain,text/csv" @read="file.take" />
      <p v-if="close.length" class="soft">Or one that was taken: <template v-for="s in close" :key="s.id"><button type="button" class="taken" @click="takeSweep(s)">{{ s.name }}</button> </template></p>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <label class="soft">Resolution bandwidth, Hz<ElInput ref="rbw" v-model="how.rbw" name="resolution" inputmode="decimal" placeholder="as the file says" @keyup.enter="entry.line.value?.focus()" /></label>
      <label class="soft">Other width, dB below the highest<ElInput v-model="how.below" name="below" inputmode="decimal" placeholder="26" @keyup.enter="entry.line.value?.focus()" /></label>
      <label class="soft">Held<select v-model="how.hold" name="hold"><option value="max">at its maximum, over some words</option><option value="single">not, a single sweep</option><option value="average">averaged</option><option value="">not told</option></select></label>
      <label class="soft">Its frequencies are in<select v-model="how.unit" name="unit"><option value="">what the file says</option><option v-for="u in ['Hz', 'kHz', 'MHz', 'GHz']" :key="u" :value="u">{{ u }}</option></select></label>
      <p class="danger">Key into a closed load, briefly, with the analyzer behind an attenuator: its input takes milliwatts. The radio’s and the instrument’s ratings and your licence come first.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result ? `${kilohertz(of.result.occupied_hz)} kHz` : 'void' }}</b> <span class="soft">{{ signalWords[of.signal as Signal] }}</span></template>
  </EntryScreen>
</template>

<style scoped>
.taken {
  all: unset;
  cursor: pointer;
  text-decoration: underline;
  color: var(--ink);
}
.taken:focus-visible {
  outline: 2px solid var(--ink);
}
</style>
