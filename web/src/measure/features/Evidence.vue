<script setup lang="ts">
import { computed } from 'vue'
import PhotoStrip from '../../reviews/PhotoStrip.vue'
import { words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['FeaturesRuling'])
</script>

<template>
  <section>
    <h3>on the box <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <div v-for="f in of.standing" :key="f.id"><p><RulingShape v-if="f.verdict" :verdict="f.verdict" :size="14" /> <b>{{ f.thing }}</b>: {{ f.answer }}<span class="soft">{{ f.remark ? `; ${f.remark}` : '' }}{{ f.claimed ? '' : '; no claim speaks of it' }}</span></p><PhotoStrip :about="f.id" empty="a photograph of it:" /></div>
    <p v-if="of.missing.length" class="soft">not tried: {{ of.missing.join(', ') }}</p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
