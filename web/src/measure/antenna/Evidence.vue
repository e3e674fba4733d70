<script setup lang="ts">
import { computed } from 'vue'
import { megahertz, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import CurvesPlot from './CurvesPlot.vue'
import { setupWords, swr, type Setup } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['AntennaRuling'])
</script>

<template>
  <section>
    <h3>antenna <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <CurvesPlot v-if="of.standing[0]" :shown="of.standing[0]" :others="of.standing.slice(1)" />
    <p v-for="m in of.standing" :key="m.id">
      <b>{{ setupWords[m.setup as Setup] }}</b>: {{ swr(m.result!.best!.swr) }} at {{ megahertz(m.result!.best!.frequency_hz) }}<template v-if="m.result!.worst_in_band?.swr != null">, at worst {{ swr(m.result!.worst_in_band.swr) }} in the band</template> <span class="soft mono">{{ m.text }}</span>
    </p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
