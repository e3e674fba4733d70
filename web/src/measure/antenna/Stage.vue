<script setup lang="ts">
// What an antenna takes over its band: markers typed off a screen, or a one-port file.
import { megahertz } from '../../shared/figures'
import { remember } from '../../shared/remember'
import type { Schemas } from '../../shared/server'
import DropFile from '../entry/DropFile.vue'
import EntryScreen from '../entry/EntryScreen.vue'
import { toldNumber } from '../../shared/numbers'
import { useReview } from '../../reviews/review'
import { useEntry } from '../entry/useEntry'
import { useFile } from '../entry/useFile'
import CurvesPlot from './CurvesPlot.vue'
import { setupWords, swr, type Setup } from './words'

type Measured = Schemas['AntennaMeasured']
type Draft = Schemas['AntennaDraft']
const how = remember(`antenna ${useReview().id}`, { setup: 'stock' as Setup, cable: '' })
const file = useFile(() => entry.text, () => entry.line.value?.focus())
const entry = useEntry<Measured>('antenna', (text): Draft => ({ text, setup: how.value.setup, cable_db: toldNumber(how.value.cable), file: file.of(text)?.content }), { of: (m) => m.setup === how.value.setup, receives: true })
const setups = Object.keys(setupWords) as Setup[]
const keys = { u: () => (how.value.setup = setups[(setups.indexOf(how.value.setup) + 1) % setups.length]!) }
const others = (shown: Measured) => entry.here.value.filter((m) => m.id !== shown.id && m.standing === 'in-force' && m.counts)
const name = (m: Measured) => setupWords[m.setup as Setup]
</script>

<template>
  <EntryScreen :entry="entry" placeholder="144 2.1 146 1.4 148 1.9" title="Antennas of this band" none="None yet. Type what the analyzer marks, 144 2.1 146 1.4 148 1.9, or choose its .s1p file; an SWR alone is at the frequency above." :keys="keys">
    <template #how>
      <b>{{ setupWords[how.setup] }}</b>
      <small>{{ how.cable.trim() ? `${how.cable.trim()} dB of cable taken off` : 'no cable in between' }}</small>
    </template>
    <template #figure="{ shown }">{{ shown?.result?.best ? swr(shown.result.best.swr) : '–' }} <small>SWR</small></template>
    <template #beside="{ shown }">
      <template v-if="shown.result?.best">
        <span>lowest, at {{ megahertz(shown.result.best.frequency_hz) }}</span>
        <span v-if="shown.result.offset_hz != null" class="soft">{{ (shown.result.offset_hz / 1e6).toFixed(2).replace('-', '−') }} MHz, {{ shown.result.offset_pct!.toFixed(1).replace('-', '−') }} % from the middle of the band</span>
        <span v-if="shown.result.worst_in_band?.swr != null">{{ swr(shown.result.worst_in_band.swr) }} at worst in the band, at {{ megahertz(shown.result.worst_in_band.frequency_hz) }}</span>
        <span v-else class="soft">not measured over the whole band</span>
        <span v-if="shown.result.band_pct != null" class="soft">{{ shown.result.band_pct.toFixed(0) }} % of it at 2 or less{{ shown.typed ? ', straight between markers' : '' }}</span>
      </template>
    </template>
    <template #picture="{ shown }">
      <CurvesPlot v-if="shown.result" :shown="shown" :others="others(shown)" />
      <p v-for="f in shown.result?.findings ?? []" :key="f.code" class="doubt">{{ f.detail }}</p>
    </template>
    <template #echo="{ shown }">{{ shown.result ? `${shown.curve.length} ${shown.typed ? 'markers' : 'points drawn'}, ${name(shown)}` : '' }}</template>
    <template #keys><span><kbd>u</kbd> how it stands</span> </template>
    <template #aside>
      <DropFile what="an .s1p file" name="one-port" accept=".s1p,text/plain" @read="file.take" />
      <label class="soft">Cable in between, dB one way<ElInput v-model="how.cable" name="cable" inputmode="decimal" placeholder="none" @keyup.enter="entry.line.value?.focus()" /></label>
      <p class="soft">A low SWR says that power goes in, not that it is radiated: a load is perfect. A handheld’s body is half of its antenna; on the instrument there is another.</p>
      <p class="danger">The radio stays off: nothing may be keyed into an analyzer. Keep antennas away from eyes and from others’ receivers.</p>
    </template>
    <template #row="{ of }"><b>{{ of.result?.best ? swr(of.result.best.swr) : '–' }}</b> <span class="soft">{{ name(of) }}</span></template>
  </EntryScreen>
</template>
