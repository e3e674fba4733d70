<script setup lang="ts">
import { computed } from 'vue'
import { db, dbm, fine, megahertz, microvolts, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['SensitivityRuling'])
</script>

<template>
  <section>
    <h3>sensitivity <RulingShape :verdict="box.verdict" :size="18" word /></h3>
    <p v-for="m in of.standing" :key="m.id">
      <b>{{ microvolts(m.result!.at_connector_uv!) }}</b>, {{ dbm(m.result!.at_connector_dbm) }} ±{{ fine(m.result!.expanded_uncertainty_db ?? 0) }} (k = 2), for {{ m.by === 'by-ear' ? 'a signal just heard, by ear' : `12 dB SINAD, ${m.width}` }} at {{ megahertz(m.frequency_hz) }}<template v-if="m.result!.claim_delta_db != null">; {{ db(m.result!.claim_delta_db) }} against {{ microvolts(m.claimed_uv!) }} claimed</template><br />
      <span class="soft">typed <span class="mono">{{ m.text }}</span>{{ m.emf ? ' EMF' : '' }}; {{ m.through.name }}, loss {{ m.loss_db == null ? 'not known' : fine(m.loss_db) }}</span>
    </p>
    <p v-if="of.standing.length === 0" class="soft">{{ words(box.why) }}</p>
    <p v-if="of.missing.length" class="soft">not tested: {{ of.missing.join(', ') }}</p>
    <p v-if="of.of > of.standing.length" class="soft">of {{ of.of }} levels taken those that need most</p>
  </section>
</template>

<style src="../entry/evidence.css" scoped></style>
