<script setup lang="ts">
// A level of a band: on one scale for all, ring and dot of its power, or the bar of its worst margin.
import { computed } from 'vue'
import { db, inMode, watts } from '../shared/figures'
import type { Schemas } from '../shared/server'
import RulingShape from '../shared/shapes/RulingShape.vue'

const props = defineProps<{ box: Schemas['PublishCompared']; margins: boolean; outside: Schemas['RecordOutsideFigure'][] }>()
const scale = computed(() => (props.margins ? ([-20, 20] as const) : ([-4, 2] as const)))
const at = (db: number) => {
  const [low, high] = scale.value
  return ((Math.min(Math.max(db, low), high) - low) / (high - low)) * 100
}
const span = (a: number, b: number) => ({ left: `${at(Math.min(a, b))}%`, width: `${Math.max(0.8, Math.abs(at(a) - at(b)))}%` })
const b = computed(() => props.box)
const figure = computed(() => (props.margins ? (b.value.room_db == null ? '' : `${b.value.seen ? '' : 'at least '}${db(b.value.room_db)}`) : b.value.measured_w == null ? 'not read' : watts(b.value.measured_w)))
const title = computed(() =>
  props.margins ? `${b.value.name}: ${b.value.product || 'no figure'} ${figure.value}${b.value.complete ? '' : ', not looked at in full'}` : `${b.value.name}: ${figure.value} of ${b.value.claimed_w == null ? 'no claim' : watts(b.value.claimed_w)}`,
)
</script>

<template>
  <div class="cell" :title="title" :data-box="box.name">
    <span class="level">{{ box.level }}{{ inMode(box.mode) }}</span>
    <span class="track" aria-hidden="true">
      <i class="line" :style="{ left: `${at(0)}%` }" />
      <template v-if="!margins && box.claimed_w != null">
        <i v-if="box.against_claim_low_db != null && box.against_claim_high_db != null" class="whisker" :style="span(box.against_claim_low_db, box.against_claim_high_db)" />
        <i class="ring" :style="{ left: `${at(0)}%` }" />
        <i v-if="box.against_claim_db != null" class="dot" :style="{ left: `${at(box.against_claim_db)}%` }" />
      </template>
      <template v-if="margins && box.room_db != null">
        <i class="bar" :class="box.emissions" :style="span(0, -box.room_db)" />
        <i v-if="box.expanded_uncertainty_db != null" class="whisker" :style="span(-box.room_db - box.expanded_uncertainty_db, -box.room_db + box.expanded_uncertainty_db)" />
      </template>
      <template v-for="f in outside" :key="f.id">
        <i v-if="margins && f.room_db != null" class="square" :style="{ left: `${at(-f.room_db)}%` }" />
        <i v-if="!margins && f.against_claim_db != null" class="square" :style="{ left: `${at(f.against_claim_db)}%` }" />
      </template>
    </span>
    <RulingShape :verdict="margins ? box.emissions : box.power" :size="16" />
    <span class="figure">{{ figure }}</span>
  </div>
</template>

<style scoped>
.cell {
  display: grid;
  grid-template-columns: 66px 130px 18px auto;
  gap: 6px;
  align-items: center;
  font-size: 13px;
  min-height: 24px;
}
.track {
  position: relative;
  height: 18px;
}
.track i {
  position: absolute;
}
.line {
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--hair);
}
.ring {
  width: 12px;
  height: 12px;
  margin-left: -6px;
  top: 3px;
  border: 2px solid var(--ink);
  border-radius: 50%;
}
.dot {
  width: 8px;
  height: 8px;
  margin-left: -4px;
  top: 5px;
  border-radius: 50%;
  background: var(--ink);
}
.whisker {
  top: 8px;
  height: 2px;
  background: var(--ink);
}
.bar {
  top: 3px;
  height: 12px;
  background: var(--soft);
}
.bar.pass,
.bar.passes-so-far {
  background: var(--leaf);
}
.bar.fail {
  background: var(--rust);
}
.bar.inconclusive {
  background: var(--amber);
}
.square {
  width: 9px;
  height: 9px;
  margin-left: -4px;
  top: 4px;
  border: 2px solid var(--slate);
}
.figure {
  white-space: nowrap;
}
</style>
