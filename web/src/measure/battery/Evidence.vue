<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import RunDownPlot from './RunDownPlot.vue'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['BatteryRuling'])
</script>

<template>
  <section>
    <h3>battery <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <RunDownPlot v-if="of.standing[0]" :shown="of.standing[0]" :others="[]" />
    <p>{{ words(box.why) }}</p>
    <p v-if="of.of > 1" class="soft">of {{ of.of }} taken the one that gave least of those run down to their end</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
