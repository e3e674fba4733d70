<script setup lang="ts">
// What a battery gives until it is empty: lines of time, volts and amps as they are read, or a log.
import { ref } from 'vue'
import { useReview } from '../../reviews/review'
import { remember } from '../../shared/remember'
import type { Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import DropFile from '../entry/DropFile.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useEntry } from '../entry/useEntry'
import { useFile } from '../entry/useFile'
import RunDownPlot from './RunDownPlot.vue'

type Measured = Schemas['BatteryMeasured']
type Draft = Schemas['BatteryDraft']
const how = remember(`battery ${useReview().id}`, { unit: '' as NonNullable<Draft['unit']>, cutoff: '', within: '', draw: '', share: '' })
const file = useFile(() => entry.text, () => entry.line.value?.focus())
const draft = (text: string): Draft => ({
  text, file: file.of(text)?.content, unit: how.value.unit, cutoff_v: toldNumber(how.value.cutoff), within_pct: toldNumber(how.value.within), draw: how.value.draw, share: how.value.share,
})
const entry = useEntry<Measured>('battery', draft, { whole: true })
const field = ref<{ focus: () => void }>()
const others = (shown: Measured) => entry.here.value.filter((m) => m.id !== shown.id && m.standing === 'in-force' && m.counts && m.result)
const toLine = () => entry.line.value?.focus()
</script>

<template>
  <EntryScreen :entry="entry" placeholder="0 8.3 1.4 30 7.9 1.4 60 7.6 1.4" title="Run-downs" none="None yet. Key it down or draw on it steadily, and type minutes, volts and amps as you read them, one behind the other: 0 8.3 1.4 30 7.9 1.4; the line stays while you wait. Or drop a log." :keys="{ r: () => field?.focus() }">
    <template #whole><span class="big">{{ entry.shown.value?.cutoff_v != null ? `to ${entry.shown.value.cutoff_v} V` : 'as far as it went' }}</span></template>
    <template #how>
      <b>{{ entry.shown.value?.label_mah != null ? `${entry.shown.value.label_mah} mAh` : 'no label' }}</b>
      <small>{{ entry.shown.value?.within_pct != null ? `counted within ${entry.shown.value.within_pct} %` : 'how it was counted is not told' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown?.result ? shown.result.mah.toFixed(0) : '–' }} <small>mAh</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result">
        <span>{{ shown.result.ended_by === 'cutoff' ? '' : 'at least: it is not empty; ' }}{{ shown.result.wh.toFixed(2) }} Wh</span>
        <span v-if="shown.result.pct_of_label != null"><RulingShape :verdict="shown.verdict ?? 'no-claim'" :size="20" /> {{ shown.result.pct_of_label.toFixed(0) }} % of the {{ shown.label_mah }} mAh on its label</span>
        <span v-else class="soft">nothing claimed</span>
        <span v-if="shown.result.hours_at_duty != null">{{ shown.result.hours_at_duty.toFixed(1) }} h at {{ shown.share }} % of the time</span>
        <span class="soft">{{ shown.points }} points in {{ ((shown.result.ended_s - shown.curve[0]!.t_s) / 60).toFixed(0) }} min<template v-if="shown.result.mean_v != null">, {{ shown.result.mean_v.toFixed(2) }} V in the mean</template></span>
      </template>
    </template>
    <template #picture="{ shown }">
      <RunDownPlot v-if="shown.result" :shown="shown" :others="others(shown)" />
      <p v-if="shown.doubt" class="doubt" data-doubt>Too close to call: {{ shown.doubt }}</p>
    </template>
    <template #echo="{ shown }">{{ shown.result ? `${shown.points} points, ${shown.result.ended_by === 'cutoff' ? `empty at ${shown.cutoff_v} V` : 'a lower bound until it is empty'}` : '' }}</template>
    <template #keys><span><kbd>r</kbd> empty at</span> </template>
    <template #aside>
      <DropFile what="a log (CSV)" name="log" accept=".csv,.txt,.tsv,text/plain,text/csv" @read="file.take" />
      <label class="soft">Times are in<select v-model="how.unit" name="unit"><option value="">minutes; of a file what it says</option><option value="s">seconds</option><option value="min">minutes</option><option value="h">hours</option></select></label>
      <label class="soft">Empty at, V<ElInput ref="field" v-model="how.cutoff" name="cutoff" inputmode="decimal" placeholder="where the log ends" @keyup.enter="toLine" /></label>
      <label class="soft">Charge is counted within, %<ElInput v-model="how.within" name="within" inputmode="decimal" placeholder="not told" @keyup.enter="toLine" /></label>
      <label class="soft">Draws transmitting/receiving/standing by, A<ElInput v-model="how.draw" name="draw" placeholder="1.4/0.2/0.05" @keyup.enter="toLine" /></label>
      <label class="soft">for so much of the time, %<ElInput v-model="how.share" name="share" placeholder="5/5/90" @keyup.enter="toLine" /></label>
      <p class="soft">Charge it fully first: what was missing at the beginning is missing in the result.</p>
      <p class="danger">Never below what its maker allows, never unattended, never shorted; stop where it gets hot. A lithium cell burns. Key only into a closed load, within the radio’s duty.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result ? `${of.result.ended_by === 'cutoff' ? '' : 'at least '}${of.result.mah.toFixed(0)} mAh` : 'void' }}</b></template>
  </EntryScreen>
</template>

<style scoped>
.big {
  font-size: 52px;
  line-height: 1;
}
</style>
