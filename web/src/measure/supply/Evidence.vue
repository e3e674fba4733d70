<script setup lang="ts">
import { computed } from 'vue'
import { watts, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { amps } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['SupplyRuling'])
</script>

<template>
  <section>
    <h3>supply <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <p v-for="m in of.standing" :key="m.id">
      <RulingShape v-if="m.verdict" :verdict="m.verdict" :size="14" /> <b>{{ m.state || m.at }} {{ amps(m.amps) }}</b> ±{{ amps(m.expanded_uncertainty_a) }} (k = 2)<template v-if="m.claimed_a != null">; at most {{ amps(m.claimed_a) }} claimed</template><template v-if="m.efficiency_percent != null">; {{ watts(m.w) }} of {{ m.input_w!.toPrecision(3) }} W, {{ m.efficiency_percent.toFixed(0) }} %</template><br />
      <span class="soft">typed <span class="mono">{{ m.text }}</span><template v-if="m.doubt">; {{ m.doubt }}</template></span>
    </p>
    <p v-if="of.missing.length" class="soft">not tested: {{ of.missing.join(', ') }}</p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
