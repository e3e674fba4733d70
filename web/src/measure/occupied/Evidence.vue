<script setup lang="ts">
import { computed } from 'vue'
import { megahertz, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import SweepPlot from './SweepPlot.vue'
import { kilohertz, signalWords, type Signal } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['OccupiedRuling'])
</script>

<template>
  <section>
    <h3>occupied bandwidth <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <SweepPlot v-if="of.standing[0]" :shown="of.standing[0]" :others="of.standing.slice(1)" />
    <p v-for="m in of.standing" :key="m.id">
      <RulingShape v-if="m.verdict" :verdict="m.verdict" :size="14" /> <b>{{ kilohertz(m.result!.occupied_hz) }} kHz</b> ±{{ kilohertz(m.result!.expanded_uncertainty_hz) }}, {{ signalWords[m.signal as Signal] }}, at {{ megahertz(m.frequency_hz) }}<template v-if="m.limit_hz != null">; at most {{ kilohertz(m.limit_hz) }} kHz by {{ m.book }}</template><br />
      <span class="soft"><span class="mono">{{ m.text }}</span>; resolution bandwidth {{ m.rbw_hz == null ? 'not told' : `${m.rbw_hz} Hz` }}<template v-for="f in m.result!.findings" :key="f.code">; {{ f.detail }}</template><template v-if="m.doubt">; {{ m.doubt }}</template></span>
    </p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
    <p v-if="of.of > of.standing.length" class="soft">of {{ of.of }} taken the widest of each signal</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
