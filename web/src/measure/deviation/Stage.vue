<script setup lang="ts">
// How far a transmitter's frequency swings: off a meter, by the carrier's null, or from the lines
// that a tone makes.
import { computed, ref } from 'vue'
import { remember } from '../../shared/remember'
import { api, ask, useAsked, type Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useReview } from '../../reviews/review'
import { useEntry } from '../entry/useEntry'
import { kilohertz, signalWords } from './words'

type Measured = Schemas['DeviationMeasured']
type Draft = Schemas['DeviationDraft']
const how = remember(`deviation ${useReview().id}`, { width: 'narrow' as Draft['width'], signal: 'voice-peak' as Draft['signal'], within: '', line: '' })
const draft = (text: string): Draft => ({ text, width: how.value.width, signal: how.value.signal, within_pct: toldNumber(how.value.within), line_db: toldNumber(how.value.line) })
const entry = useEntry<Measured>('deviation', draft, { of: (m) => m.width === how.value.width && m.signal === how.value.signal })
const field = ref<{ focus: () => void }>()
const signals = Object.keys(signalWords) as Draft['signal'][]
const keys = {
  w: () => (how.value.width = how.value.width === 'narrow' ? 'wide' : 'narrow'),
  t: () => (how.value.signal = signals[(signals.indexOf(how.value.signal) + 1) % signals.length]!),
  r: () => field.value?.focus(),
}
// What a channel of each width is made for, and the tones at which the carrier vanishes by that.
const offered = useAsked('deviation channels', () => [], () => ask(api.GET('/api/v1/kinds/deviation')))
const channel = computed(() => offered.answer.value?.find((c) => c.width === how.value.width))

const most = (m: Measured) => 1.25 * Math.max(m.result!.deviation_hz + m.result!.expanded_uncertainty_hz, m.usual_hz ?? 0, m.claimed_hz ?? 0)
const x = (hz: number, m: Measured) => 300 + (hz / most(m)) * 285
const sides = (m: Measured) => [m.plus_hz ?? (m.minus_hz == null ? m.result!.deviation_hz : null), m.minus_hz ?? (m.plus_hz == null ? m.result!.deviation_hz : null)]
</script>

<template>
  <EntryScreen :entry="entry" placeholder="+4.6 -4.3" title="Deviations of this band" none="None yet. Type what the meter shows in kHz, +4.6 -4.3; or the tone at which the carrier vanishes, null 2079; or lines off a screen, lines 1000 -20.1 -14.2 -18 -27.5." :keys="keys">
    <template #how>
      <b>{{ how.width }}</b>
      <small>{{ signalWords[how.signal] }}<template v-if="channel">, {{ channel.spacing_hz / 1e3 }} kHz channel</template></small>
    </template>
    <template #figure="{ shown }">{{ shown?.result ? kilohertz(shown.result.deviation_hz) : '–' }} <small>kHz</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result">
        <span>±{{ kilohertz(shown.result.expanded_uncertainty_hz) }} kHz, k = 2; {{ (shown.result.carson_hz / 1e3).toFixed(1) }} kHz wide by Carson</span>
        <span v-if="shown.claimed_hz != null"><RulingShape :verdict="shown.verdict ?? 'no-claim'" :size="20" /> at most {{ kilohertz(shown.claimed_hz) }} kHz claimed</span>
        <span v-else class="soft">held against no claim</span>
        <span v-if="shown.result.index != null" class="soft">index {{ shown.result.index.toFixed(2) }}, tone {{ shown.tone_hz }} Hz</span>
        <span v-if="shown.result.asymmetry_hz != null" class="soft">plus less minus {{ kilohertz(shown.result.asymmetry_hz) }} kHz</span>
      </template>
    </template>
    <template #picture="{ shown }">
      <svg v-if="shown.result" viewBox="0 0 600 66" role="img" :aria-label="`${kilohertz(shown.result.deviation_hz)} kHz to the side that goes further`">
        <line x1="10" x2="590" y1="24" y2="24" class="axis" /><line x1="300" x2="300" y1="10" y2="38" class="axis" />
        <text x="300" y="56" text-anchor="middle">carrier</text>
        <template v-for="(side, i) in sides(shown)" :key="i"><rect v-if="side != null" :x="i === 0 ? 300 : x(-side, shown)" y="15" :width="x(side, shown) - 300" height="18" class="swing" /></template>
        <template v-for="s in [-1, 1]" :key="s">
          <template v-if="shown.usual_hz != null"><line :x1="x(s * shown.usual_hz, shown)" :x2="x(s * shown.usual_hz, shown)" y1="6" y2="42" class="usual" /><text :x="x(s * shown.usual_hz, shown)" y="56" text-anchor="middle">usual {{ kilohertz(shown.usual_hz) }}</text></template>
          <line v-if="shown.claimed_hz != null" :x1="x(s * shown.claimed_hz, shown)" :x2="x(s * shown.claimed_hz, shown)" y1="6" y2="42" class="claimed" />
        </template>
      </svg>
      <p v-if="shown.over" class="doubt" data-over>{{ shown.over }}</p>
      <p v-if="shown.doubt" class="doubt" data-doubt>Too close to call: {{ shown.doubt }}</p>
      <p v-for="f in shown.result?.findings ?? []" :key="f.code" class="doubt">{{ f.detail }}</p>
    </template>
    <template #echo="{ shown }">{{ shown.result ? `${kilohertz(shown.result.deviation_hz)} kHz, ${shown.width}, ${signalWords[shown.signal as Draft['signal']]}` : '' }}</template>
    <template #keys><span><kbd>w</kbd> narrow or wide</span> <span><kbd>t</kbd> voice peak, tone, sub-audible</span> <span><kbd>r</kbd> how well it is read</span> </template>
    <template #aside>
      <label class="soft">Meter, or the tone, is within, %<ElInput ref="field" v-model="how.within" name="within" inputmode="decimal" placeholder="not told" @keyup.enter="entry.line.value?.focus()" /></label>
      <label class="soft">A line’s level is within, dB<ElInput v-model="how.line" name="line-db" inputmode="decimal" placeholder="not told" @keyup.enter="entry.line.value?.focus()" /></label>
      <p class="soft">Not told, nothing is ruled by it.</p>
      <p v-if="channel" class="soft" data-nulls>For {{ kilohertz(channel.usual_hz) }} kHz the carrier vanishes at <template v-for="(tone, i) in channel.nulls_hz" :key="tone">{{ i ? ', ' : '' }}<b class="mono">{{ Math.round(tone) }}</b></template> Hz of tone: the first, second and third null as its level rises from nothing.</p>
      <p class="danger">Key into a closed load, briefly, with the meter or analyzer behind a sampler or attenuator. The radio’s and the instrument’s ratings and your licence come first.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result ? `${kilohertz(of.result.deviation_hz)} kHz` : 'void' }}</b> <span class="soft">{{ of.width }}, {{ signalWords[of.signal as Draft['signal']] }}</span></template>
  </EntryScreen>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 640px;
}
.axis {
  stroke: var(--soft);
}
.swing {
  fill: var(--press);
  stroke: var(--ink);
}
.usual {
  stroke: var(--soft);
  stroke-dasharray: 4 3;
}
.claimed {
  stroke: var(--ink);
  stroke-width: 3;
}
text {
  font-size: 14px;
  fill: var(--soft);
}
</style>
