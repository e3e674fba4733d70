<script setup lang="ts">
import { computed } from 'vue'
import { claimed, megahertz, watts, words } from '../../shared/figures'
import type { Box, BoardCell, Schemas } from '../../shared/server'
import PhotoStrip from '../../reviews/PhotoStrip.vue'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const of = computed(() => props.box.of as Schemas['PowerRuling'])
// The quantity that is held against the claim: the peak where that is claimed.
const held = computed(() => (props.cell.pep ? of.value.reading?.peak : of.value.reading?.result) ?? null)
</script>

<template>
    <section>
      <h3>power <RulingShape :verdict="box.verdict" :size="18" word /></h3>
      <template v-if="of.reading">
        <p>
          <b>{{ watts(of.reading.measured_w) }}{{ cell.pep ? ' PEP' : '' }}</b> at the connector, {{ megahertz(of.reading.frequency_hz) }}<template v-if="of.reading.low_w != null">, {{ watts(of.reading.low_w) }} to {{ watts(of.reading.high_w) }} (k = 2)</template>; {{ cell.claimed_w > 0 ? 'claimed ' : '' }}{{ claimed(cell) }}
        </p>
        <p class="soft"><template v-if="of.reading.text">typed <span class="mono">{{ of.reading.text }}</span>; </template>{{ of.reading.through.name }}<template v-if="of.readings > 1">; of {{ of.readings }} readings the furthest from the claim</template><template v-if="of.frequencies_hz.length > 1">, read at {{ of.frequencies_hz.map(megahertz).join(', ') }}</template></p>
        <p>{{ words(of.why) }}</p>
        <p v-for="d in of.reading.doubts" :key="d.code" class="doubt">{{ words(d.detail) }}<template v-if="d.advice">: {{ d.advice }}</template></p>
        <PhotoStrip :about="of.reading.id" empty="a photograph of it:" />
        <table v-if="held?.budget.length">
          <tbody>
            <tr v-for="l in held.budget" :key="l.source">
              <td>{{ l.source }}</td><td class="n">{{ (l.relative * 100).toFixed(2) }} %</td><td class="soft">{{ l.distribution }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else class="soft">{{ of.why }}</p>
    </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--hair);
  padding: 10px 0;
  margin-top: 8px;
}
h3 {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-bottom: 4px;
}
.doubt {
  border-left: 3px solid var(--amber);
  padding: 1px 10px;
}
table {
  border-collapse: collapse;
  font-size: 14px;
  margin-top: 6px;
}
td {
  padding: 2px 14px 2px 0;
  vertical-align: top;
}
.n {
  text-align: right;
  white-space: nowrap;
}
</style>
