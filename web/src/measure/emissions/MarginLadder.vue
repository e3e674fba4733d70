<script setup lang="ts">
// A rung per product: a bar left of the limit line is room, right of it excess,
// the uncertainty a whisker at its end. A rung opens down to its numbers.
import { computed, ref } from 'vue'
import type { Product, Schemas } from '../../shared/server'
import OpenedProduct from './OpenedProduct.vue'
import { dbc, dbm, room } from '../../shared/figures'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ ruling: Schemas['JudgeRuling']; rungs: Schemas['EmissionsRung'][]; budget: Schemas['JudgeLevelBudget'] | null; sweeps: Schemas['EmissionsSweepView'][]; rule: string; relative?: boolean }>()
const emit = defineEmits<{ point: [frequency: number | null] }>()
const open = ref('')
const focused = ref<number | null>(null) // what has the focus is pointed at, wherever the pointer rests
/** Each product has the budget of the sight it rests on. */
const budgetOf = (p: Product) => props.sweeps.find((s) => s.name === p.sweep)?.budget ?? props.budget
const placeOf = (p: Product) => p.frequency_hz ?? p.expected_hz
const track = (s: { from: number; to: number } | null) => s && { left: `${s.from}%`, width: `${s.to - s.from}%` }

const rungs = computed(() =>
  props.ruling.products.map((p, i) => {
    const at = props.rungs[i]
    return {
      p,
      name: p.name,
      bar: track(at?.bar ?? null),
      whisker: track(at?.whisker ?? null),
      class: [at?.class, { unseen: !p.seen, clipped: at?.clipped }],
      words: p.level_dbm == null ? (p.dbc == null ? 'not examined' : `${p.seen ? '' : 'not above '}${dbc(p.not_above_dbc ?? p.dbc)}, no level known`) : `${p.seen ? '' : 'not above '}${dbm(p.not_above_dbm ?? p.level_dbm)}${p.dbc == null ? '' : `, ${dbc(p.not_above_dbc ?? p.dbc)}`}`,
    }
  }),
)
</script>

<template>
  <div class="ladder" role="table" aria-label="Margin of each product against its limit">
    <div class="head soft" role="row">
      <span role="columnheader">product at the connector</span>
      <span role="columnheader" class="sides"><i>room</i><i>limit</i><i>excess</i></span>
      <span role="columnheader">margin, term</span>
    </div>
    <div v-for="(r, i) in rungs" :key="i" class="rung" role="row" :data-product="r.name" :data-verdict="r.p.verdict" @mouseenter="emit('point', placeOf(r.p))" @mouseleave="emit('point', focused)">
      <span role="cell" class="name">
        <button v-if="r.p.opened" type="button" class="opens" :aria-expanded="open === r.name" :aria-label="`${r.name}, open its numbers`" @focus="emit('point', (focused = placeOf(r.p)))" @blur="emit('point', (focused = null))" @click="open = open === r.name ? '' : r.name">{{ open === r.name ? '▾' : '▸' }}</button>
        <RulingShape :verdict="r.p.verdict" :size="18" /> <b>{{ r.name }}</b><span v-if="r.p.suspect" class="soft">, suspect</span><br /><span class="soft">{{ r.words }}</span>
      </span>
      <span role="cell" class="track">
        <i v-if="r.bar" class="bar" :class="r.class" :style="r.bar" />
        <i v-if="r.whisker" class="whisker" :style="r.whisker" />
      </span>
      <span role="cell" class="figure">
        <template v-if="r.p.room_db != null"><b>{{ room(r.p) }}</b> <span class="soft">{{ r.p.decided_by }}</span></template>
        <span v-else class="soft">{{ r.p.limit_dbm == null ? 'no limit' : 'not covered' }}</span>
      </span>
      <OpenedProduct v-if="open === r.name && r.p.opened" :product="r.p" :budget="budgetOf(r.p)" :rule="rule" :ruling="ruling" />
    </div>
    <p class="soft scale">20 dB on each side; whiskers are the expanded uncertainty (k = 2){{ relative ? ' of a distance from the carrier' : '' }}; a rung opens down to its numbers</p>
  </div>
</template>

<style scoped>
.head,
.rung {
  display: grid;
  grid-template-columns: minmax(150px, 230px) minmax(120px, 1fr) 168px;
  gap: 14px;
  align-items: center;
}
.head {
  font-size: 14px;
}
.sides {
  display: flex;
  justify-content: space-between;
}
.sides i {
  font-style: normal;
}
.rung {
  border-top: 1px solid var(--hair);
  padding: 3px 0;
}
.name {
  line-height: 1.25;
}
.opens {
  all: unset;
  cursor: pointer;
  width: 16px;
  color: var(--soft);
}
.opens:focus-visible {
  outline: 2px solid var(--ink);
}
.name .soft,
.figure .soft,
.scale {
  font-size: 14px;
}
.track {
  position: relative;
  height: 30px;
  background: linear-gradient(var(--ink), var(--ink)) 50% 0 / 2px 100% no-repeat;
}
.bar {
  position: absolute;
  top: 9px;
  height: 12px;
  background: color-mix(in srgb, var(--ink) 45%, transparent);
}
.bar.unseen {
  background: repeating-linear-gradient(135deg, color-mix(in srgb, var(--ink) 40%, transparent) 0 2px, transparent 2px 6px);
}
.bar.over {
  background: var(--rust);
}
.bar.doubt {
  background: var(--amber);
}
.whisker {
  position: absolute;
  top: 14px;
  height: 2px;
  background: var(--ink);
}
.figure b {
  font-size: 17px;
}
</style>
