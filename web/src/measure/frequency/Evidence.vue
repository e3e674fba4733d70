<script setup lang="ts">
import { computed } from 'vue'
import { megahertz, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { hertz, ppm } from './words'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['FrequencyRuling'])
</script>

<template>
  <section>
    <h3>frequency error <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <p v-for="m in of.standing" :key="m.id">
      <b>{{ ppm(m.result!.error_ppm) }} ppm</b><template v-if="m.reference_ppm != null"> ±{{ m.result!.expanded_uncertainty_ppm.toFixed(2) }} (k = 2)</template>, {{ hertz(m.result!.error_hz) }} at {{ megahertz(m.frequency_hz) }}<template v-if="m.claimed_ppm != null">; {{ m.claimed_ppm }} ppm claimed</template><template v-if="m.drift_hz != null">; drifts by {{ hertz(m.drift_hz) }} over the key-up</template><br />
      <span class="soft">typed <span class="mono">{{ m.text }}</span>; reference {{ m.reference_ppm == null ? 'not told' : `within ${m.reference_ppm} ppm` }}</span>
    </p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
    <p v-if="of.of > of.standing.length" class="soft">of {{ of.of }} taken the one furthest off</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
