<script setup lang="ts">
// How one meter stands against the others: a ring per transmitter, the mean, its
// spread. All lines of a comparison share a scale, given by its span in dB.
import { computed } from 'vue'
import type { Schemas } from '../../shared/server'
import { megahertz } from '../../shared/figures'
import { signed } from './span'

const props = defineProps<{ meter: Schemas['CalibrateMeterOffset']; span: number }>()
const W = 380
const x = (v: number) => W / 2 + (v / props.span) * (W / 2 - 20)
const each = computed(() => props.meter.each_db.filter((v): v is number => v != null))
const where = computed(() => {
  const m = props.meter
  if (m.from_hz == null) return ''
  return `, ${megahertz(m.from_hz)}${m.to_hz === m.from_hz ? '' : ` to ${megahertz(m.to_hz!)}`}`
})
</script>

<template>
  <div class="offset">
    <span>{{ meter.meter }}</span>
    <svg :viewBox="`0 0 ${W} 34`" role="img" :aria-label="`${meter.meter} ${signed(meter.offset_db)}`">
      <line :x1="x(0)" :x2="x(0)" y1="2" y2="32" class="zero" />
      <line v-if="meter.spread_db != null && meter.offset_db != null" :x1="x(meter.offset_db - meter.spread_db)" :x2="x(meter.offset_db + meter.spread_db)" y1="17" y2="17" class="spread" />
      <circle v-for="(e, k) in each" :key="k" :cx="x(e)" cy="17" r="4" class="each" />
      <line v-if="meter.offset_db != null" :x1="x(meter.offset_db)" :x2="x(meter.offset_db)" y1="6" y2="28" class="mean" />
    </svg>
    <b>{{ signed(meter.offset_db) }}</b>
    <span class="soft said">{{ meter.spread_db == null ? 'one transmitter shows no spread' : `spread ${meter.spread_db.toFixed(2)} dB over ${meter.rows}, ±${(2 * meter.standard_uncertainty_db!).toFixed(2)} dB (k = 2)` }}{{ where }}</span>
    <slot />
  </div>
</template>

<style scoped>
.offset {
  display: grid;
  grid-template-columns: 250px 380px 100px 1fr;
  gap: 14px;
  align-items: center;
}
@media (max-width: 1150px) {
  .offset {
    grid-template-columns: minmax(0, 1fr) 100px;
  }
  .offset svg {
    grid-row: 2;
    width: 100%;
  }
  .said {
    grid-column: 1 / -1;
  }
}
.offset b {
  font-size: 20px;
}
.said {
  font-size: 15px;
  line-height: 1.3;
}
.zero {
  stroke: var(--soft);
}
.spread {
  stroke: var(--soft);
  stroke-width: 5;
  opacity: 0.4;
}
.each {
  fill: none;
  stroke: var(--ink);
}
.mean {
  stroke: var(--ink);
  stroke-width: 3;
}
</style>
