<script setup lang="ts">
import { computed } from 'vue'
import { megahertz, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { kilohertz, signalWords } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['DeviationRuling'])
</script>

<template>
  <section>
    <h3>deviation <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <p v-for="m in of.standing" :key="m.id">
      <RulingShape v-if="m.verdict" :verdict="m.verdict" :size="14" /> <b>{{ kilohertz(m.result!.deviation_hz) }} kHz</b> ±{{ kilohertz(m.result!.expanded_uncertainty_hz) }} (k = 2), {{ m.width }}, {{ signalWords[m.signal as keyof typeof signalWords] }}, at {{ megahertz(m.frequency_hz) }}<template v-if="m.claimed_hz != null">; at most {{ kilohertz(m.claimed_hz) }} kHz claimed</template><br />
      <span class="soft">typed <span class="mono">{{ m.text }}</span>; {{ (m.result!.carson_hz / 1e3).toFixed(1) }} kHz wide by Carson</span>
    </p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
    <p v-if="of.of > of.standing.length" class="soft">of {{ of.of }} taken the largest of each width and signal</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
