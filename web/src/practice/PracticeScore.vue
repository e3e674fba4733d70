<script setup lang="ts">
// The truth beside what was ruled, each fault with where it could have been seen, and the one figure
// that matters.
import { computed } from 'vue'
import type { Schemas } from '../shared/server'
import RulingShape from '../shared/shapes/RulingShape.vue'
import { words } from '../shared/figures'

const props = defineProps<{ score: Schemas['PracticeScore'] }>()
const cautious = computed(() => props.score.rulings.filter((r) => r.outcome === 'too cautious').length)
const untried = computed(() => props.score.rulings.filter((r) => r.outcome === 'not tried' && r.truth !== 'no-limit').length)
</script>

<template>
  <section class="score" data-score>
    <p v-if="score.of" class="figure"><b>{{ score.wrong }}</b> of your {{ score.of }} {{ score.of === 1 ? 'ruling' : 'rulings' }} {{ score.wrong === 1 ? 'was' : 'were' }} wrong</p>
    <p v-else class="figure">Nothing was ruled</p>
    <p class="soft">{{ cautious }} too cautious, {{ untried }} not tried; {{ score.minutes }} min, {{ score.key_ups }} key-ups, {{ Math.round(score.keyed_s) }} s keyed<template v-if="score.risked.length">; {{ score.risked.length }} {{ score.risked.length === 1 ? 'thing' : 'things' }} put at risk</template></p>
    <div class="rows" role="table" aria-label="Rulings and the truth">
      <div v-for="r in score.rulings" :key="r.box + r.kind" class="row" role="row" :class="{ danger: r.outcome.startsWith('wrong') }" :data-outcome="r.outcome">
        <span role="cell">{{ r.box }} {{ r.kind }}</span>
        <span role="cell"><RulingShape :verdict="r.ruling" word /></span>
        <span role="cell" class="truth"><span class="soft">in truth</span> <RulingShape :verdict="r.truth" word /></span>
        <span role="cell" class="soft">{{ words(r.says) }}</span>
        <b role="cell">{{ r.outcome }}</b>
      </div>
    </div>
    <h3>What was wrong</h3>
    <p v-for="f in score.faults" :key="f.id" :data-fault="f.id"><b>{{ f.outcome }}</b>: {{ words(f.says) }}. <span class="soft">It could be seen by {{ f.sign }}.</span></p>
    <p v-for="f in score.false_alarms" :key="f"><b>suspected, and not so</b>: {{ f }}.</p>
    <p v-for="(e, n) in score.risked" :key="n" class="danger">{{ e.what }}</p>
    <p class="teaches">{{ score.teaches }}</p>
  </section>
</template>

<style scoped>
.figure {
  font-size: 26px;
  margin: 0;
}
.figure b {
  font-size: 64px;
  font-weight: 600;
  line-height: 1;
  margin-right: 8px;
}
.rows {
  border-top: 1px solid var(--hair);
  margin: 12px 0;
}
.row {
  display: grid;
  grid-template-columns: minmax(100px, 1.2fr) minmax(110px, 1.2fr) minmax(130px, 1.5fr) minmax(130px, 2fr) minmax(80px, auto);
  gap: 12px;
  align-items: center;
  border-bottom: 1px solid var(--hair);
  padding: 4px 0;
  font-size: 15px;
}
@media (max-width: 900px) {
  .row {
    grid-template-columns: 1fr 1fr;
    gap: 2px 12px;
  }
}
.truth {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: center;
}
.teaches {
  border-left: 4px solid var(--ink);
  padding: 4px 14px;
  font-size: 18px;
  max-width: 760px;
}
h3 {
  margin: 14px 0 4px;
}
p {
  margin: 4px 0;
}
</style>
