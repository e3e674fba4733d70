<script setup lang="ts">
import { computed } from 'vue'
import { words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { level, name, shownDifference } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['ReceiverRuling'])
</script>

<template>
  <section>
    <h3>receiver <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <p v-for="m in of.standing" :key="m.id"><b>{{ name(m) }}</b> <template v-if="m.level_dbm != null">at {{ level(m.level_dbm) }}<template v-if="m.closes_dbm != null">, closes at {{ level(m.closes_dbm) }}</template>, </template><template v-if="m.difference_db != null">{{ shownDifference(m) }}</template> <span class="soft mono">{{ m.text }}</span></p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
