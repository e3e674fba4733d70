<script setup lang="ts">
// How little the receiver needs: the generator is turned down, and what it shows typed.
import { computed } from 'vue'
import { useBench } from '../../bench/bench'
import { usePath, useReview, useStaircase } from '../../reviews/review'
import { db, dbm, fine, microvolts } from '../../shared/figures'
import { remember } from '../../shared/remember'
import type { Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { useEntry } from '../entry/useEntry'
import LevelScale from './LevelScale.vue'

type Measured = Schemas['SensitivityMeasured']
type Draft = Schemas['SensitivityDraft']
const bench = useBench()
const paths = computed(() => bench.paths.filter((p) => p.purpose === 'receive'))
const pathId = usePath('sensitivity', () => paths.value)
const how = remember(`sensitivity ${useReview().id}`, { by: 'sinad' as Draft['by'], width: 'narrow', emf: false })
const entry = useEntry<Measured>('sensitivity', (text): Draft => ({ text, ...how.value }), {
  of: (m) => m.by === how.value.by && (m.by === 'by-ear' || m.width === how.value.width),
  receives: true,
  dial: 'receive',
  path: () => pathId.value,
  wiring: () => stairs.answer.value?.wiring ?? '',
  stale: () => void stairs.again(),
})
const stairs = useStaircase(() => entry.cell.value, () => pathId.value, 'receive')
const quantity = (m: Measured) => (m.by === 'by-ear' ? 'just heard, by ear' : `12 dB SINAD, ${m.width}`)
const keys = {
  e: () => (how.value.by = how.value.by === 'sinad' ? 'by-ear' : 'sinad'),
  w: () => (how.value.width = how.value.width === 'narrow' ? 'wide' : 'narrow'),
  p: () => (how.value.emf = !how.value.emf),
}
</script>

<template>
  <EntryScreen :entry="entry" placeholder="0.22uV" title="Levels of this band" none="None yet. Turn the generator down until the SINAD meter shows 12 dB, and type what it shows. What is only just heard, by ear, is another quantity." :keys="keys">
    <template #how>
      <b>{{ how.by === 'by-ear' ? 'by ear' : '12 dB SINAD' }}</b>
      <small>{{ how.by === 'by-ear' ? 'a quantity of its own' : how.width }}, volts as {{ how.emf ? 'EMF' : 'PD' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown?.result?.at_connector_uv == null ? '–' : microvolts(shown.result.at_connector_uv).replace(' µV', '') }} <small>µV</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result?.at_connector_dbm != null">
        <span>{{ dbm(shown.result.at_connector_dbm) }} ±{{ fine(shown.result.expanded_uncertainty_db ?? 0) }}</span>
        <span class="soft">at the connector, k = 2, S {{ shown.result.s_units?.toFixed(1) }}</span>
        <span v-if="shown.result.claim_delta_db != null"><RulingShape :verdict="shown.result.verdict ?? 'no-claim'" :size="20" /> {{ db(Math.abs(shown.result.claim_delta_db)).replace('+', '') }} {{ shown.result.claim_delta_db > 0 ? 'over' : 'under' }} the {{ microvolts(shown.claimed_uv!) }} claimed</span>
        <span v-else class="soft">{{ shown.by === 'by-ear' ? 'held against no claim' : 'nothing claimed' }}</span>
      </template>
    </template>
    <template #picture="{ shown }"><LevelScale v-if="shown.result?.at_connector_dbm != null" :measured="shown" /></template>
    <template #echo="{ shown }">the generator shows {{ shown.text }}{{ shown.emf ? ' EMF' : '' }}, {{ dbm(shown.result?.generator_dbm) }}; {{ quantity(shown) }}</template>
    <template #keys><span><kbd>e</kbd> by ear or SINAD</span> <span><kbd>w</kbd> narrow or wide</span> <span><kbd>p</kbd> EMF or PD</span> </template>
    <template #aside>
      <label class="soft">Path
        <ElSelect v-model="pathId" aria-label="Path"><ElOption v-for="p in paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect>
      </label>
      <p v-if="paths.length === 0" class="soft">No path from a generator is kept yet: <RouterLink to="/bench/paths">draw one on the bench</RouterLink>, from the radio’s connector through pads to the generator at its end.</p>
      <p v-if="stairs.answer.value" class="soft">Loss {{ stairs.answer.value.multiples.total_loss_db[0] == null ? 'not known here' : fine(stairs.answer.value.multiples.total_loss_db[0]!) }} between generator and radio.</p>
      <p class="danger">Lock transmitting before the generator is connected: keying into it destroys it. The radio’s own and the generator’s ratings come first.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result?.at_connector_uv == null ? 'void' : microvolts(of.result.at_connector_uv) }}</b> <span class="soft">{{ quantity(of) }}</span></template>
  </EntryScreen>
</template>
