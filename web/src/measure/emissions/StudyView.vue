<script setup lang="ts">
// What stands: the worst margin large with its sentence, the ladder, each rung down to its numbers; then how far
// was looked and the trace, lower, as what the ladder rests on; two looks against each other, and every sweep.
import { useHelp } from '../../shared/help'
import { computed, defineAsyncComponent, ref } from 'vue'
import { fine, megahertz, ordinal, room, watts, words } from '../../shared/figures'
import GhostLine from '../../reviews/GhostLine.vue'
import { outsideWords } from '../../reviews/review'
import type { Emissions } from '../../shared/server'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import { type Standing } from '../../shared/StandingWords.vue'
import CoverageStrip from './CoverageStrip.vue'
import MarginLadder from './MarginLadder.vue'
import SecondLook from './SecondLook.vue'
import SweepList from './SweepList.vue'

// The plot and its library come when a sweep is there to be drawn.
const SpectrumPlot = defineAsyncComponent(() => import('./SpectrumPlot.vue'))

const props = defineProps<{ found: Emissions; rule: string; second: boolean; box: string }>()
const emit = defineEmits<{ carrier: [hz: number]; second: []; say: [id: string, standing: Standing, reason: string] }>()
const pointed = ref<number | null>(null) // the product a rung points at, in Hz
const ruling = computed(() => props.found.ruling)
const plus = computed(() => (props.found.relative_only ? props.found.budget?.expanded_uncertainty_dbc_db : props.found.budget?.expanded_uncertainty_db))
// The strip spans what a full examination asks for, whatever was swept.
const spans = computed(() => {
  const sweeps = props.found.sweeps
  const c = ruling.value?.coverage
  return { from: Math.min(...sweeps.map((s) => s.start_hz), c?.search_from_hz ?? Infinity), to: Math.max(...sweeps.map((s) => s.stop_hz), c?.search_to_hz ?? 0) }
})
useHelp(() => ({ title: 'Study', keys: [['l', 'take a look or sweep'], ['y', 'study'], ['v', 'by level'], ['a', 'by state'], ['+', 'look again with 10 dB more'], ['↑ ↓', 'another box']], words: ['margin', 'product', 'harmonic', 'floor', 'coverage', 'dBc', 'k = 2', 'look', 'sweep'] }))
</script>

<template>
  <div class="worst">
    <RulingShape v-if="ruling" :verdict="found.said" :size="58" />
    <div v-if="ruling?.worst" class="margin" :class="ruling.verdict">
      {{ ruling.worst.room_db == null ? 'not seen' : room(ruling.worst) }}
    </div>
    <b v-if="found.relative_only" class="relative" data-relative>relative only</b>
    <div v-if="ruling" class="says">
      <template v-if="ruling.worst">
        <b>{{ ruling.worst.name }}</b>, {{ ruling.worst.decided_by ?? 'no' }} term<br />
      </template>
      <template v-else><b>{{ ruling.detail ?? 'nothing to rule on' }}</b><br /></template>
      <span class="soft">
        {{ ruling.verdict === 'pass' ? 'passes' : 'examined' }} as far as {{ ruling.coverage.passes_to_hz == null ? 'nowhere above the carrier' : megahertz(ruling.coverage.passes_to_hz)
        }}{{ ruling.coverage.highest_harmonic == null ? '' : ` (${ordinal(ruling.coverage.highest_harmonic)} harmonic)` }}{{ ruling.coverage.from_hz ? `, from ${megahertz(ruling.coverage.from_hz)}` : '' }}; {{ found.book_title
        }}{{ found.book_recalled ? ', recalled from memory' : found.book_house ? ', house practice' : '' }}<template v-if="plus != null">; ±{{ fine(plus) }} (k = 2)</template><template v-if="found.mean_w">; carrier {{ watts(found.mean_w) }} by the meter at {{ megahertz(found.mean_at_hz) }}</template>
      </span>
    </div>
    <p v-else class="soft">{{ found.why }}</p>
  </div>
  <GhostLine :box="box" />
  <p v-if="found.void" class="danger trouble">Void: {{ found.void }}</p>
  <p v-if="found.outside" class="doubt" data-outside>{{ outsideWords(found.frequency_hz, found.band) }}.</p>
  <p v-if="found.others.length" class="others">
    At {{ megahertz(found.frequency_hz) }}. Also swept:
    <button v-for="o in found.others" :key="o.frequency_hz" type="button" class="link" @click="emit('carrier', o.frequency_hz)"><RulingShape :verdict="o.verdict" :size="16" /> {{ megahertz(o.frequency_hz) }}, {{ words(o.why) }}</button>
  </p>
  <template v-if="ruling && found.sweeps.length">
    <div class="lower">
      <div>
        <MarginLadder :ruling="ruling" :rungs="found.rungs ?? []" :budget="found.budget" :sweeps="found.sweeps" :rule="rule" :relative="found.relative_only" @point="pointed = $event" />
        <div class="plot-place"><SpectrumPlot :emissions="found" :pointed="pointed" :from="spans.from" :to="spans.to" /></div>
        <p v-if="found.relative_only" class="soft">The coupling is not known: only distances from the carrier count, no level. It is drawn from the carrier’s power, where a meter read it.</p>
        <CoverageStrip :coverage="ruling.coverage" :carrier="found.frequency_hz" :from="spans.from" :to="spans.to" />
      </div>
      <aside>
        <p><ElButton size="small" name="second" :disabled="!second" @click="emit('second')">Look again with 10 dB more <kbd>+</kbd></ElButton></p>
        <SecondLook v-if="found.seconds?.length" :seconds="found.seconds" :standings="Object.fromEntries(found.sweeps.map((s) => [s.id, s.standing]))" @suspect="(id, reason) => emit('say', id, 'suspect', reason)" />
        <ul v-if="ruling.findings.length" class="findings">
          <li v-for="(f, i) in ruling.findings" :key="i" :data-finding="f.code">{{ words(f.detail) }}<template v-if="f.advice">: {{ f.advice }}</template></li>
        </ul>
        <SweepList :sweeps="found.sweeps" @say="(id, standing, reason) => emit('say', id, standing, reason)" />
      </aside>
    </div>
  </template>
</template>

<style scoped>
.relative {
  font-size: 22px;
  border: 2px dashed var(--soft);
  padding: 2px 10px;
  white-space: nowrap;
}
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
.doubt {
  border-left: 4px solid var(--amber);
  padding: 2px 12px;
  font-size: 17px;
}
.worst {
  display: flex;
  align-items: center;
  gap: 20px;
  margin: 10px 0 2px;
}
.margin {
  font-size: 64px;
  line-height: 1.1;
  font-weight: 600;
  letter-spacing: -0.02em;
  white-space: nowrap;
}
.margin.fail {
  color: var(--rust);
}
.says {
  font-size: 18px;
}
.says .soft {
  font-size: 15px;
}
.others button {
  margin-right: 14px;
  font-size: inherit;
}
/* kept while the plot's library is on its way */
.plot-place {
  min-height: 240px;
  margin-top: 18px;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 34px;
  margin-top: 10px;
}
@media (max-width: 1150px) {
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
  .worst {
    flex-wrap: wrap;
  }
}
.findings {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
.findings li {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
  margin-bottom: 6px;
  font-size: 15px;
}
</style>
