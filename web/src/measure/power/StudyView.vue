<script setup lang="ts">
// Power along something else than the boxes of the board.
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import { megahertz, watts, words } from '../../shared/figures'
import { api, ask, useAsked } from '../../shared/server'
import { isField } from '../../shared/typing'
import { useReview } from '../../reviews/review'
import CurvePlot from './CurvePlot.vue'
import PairPlot from './PairPlot.vue'

const emit = defineEmits<{ back: [] }>()
const book = useReview()
const asked = useAsked('power study', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/measure/power/study', { params: { path: { id } } })))
const study = computed(() => asked.answer.value)
const curves = computed(() =>
  [
    { of: 'frequency' as const, title: 'Power against frequency', none: 'Read one level at three frequencies or more, in the band and beyond it: n 145.9 h dials one.' },
    { of: 'supply' as const, title: 'Power against supply', none: 'Note the volts with each reading, 4.8 12.6v, at two voltages or more; r 15.5v where the radio refuses.' },
    { of: 'time' as const, title: 'Power over time', none: 'Log the same level four times over a minute or more: heat and battery show.' },
  ].map((c) => ({ ...c, all: study.value?.[c.of] ?? [] })),
)
type Curve = NonNullable<typeof study.value>['supply'][number]
const along = (of: string, c: Curve, x: number) => (of === 'frequency' ? megahertz(x) : of === 'supply' ? `${x} V` : `${Math.round(x - c.points[0]!.x)} s`)
const table = (title: string) => `/api/v1/reviews/${book.id}/measure/power/table?of=${encodeURIComponent(title)}`
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (!isField(e.target) && (e.key === 'v' || e.key === 'Escape') && !e.ctrlKey && !e.metaKey && !e.altKey) {
    e.preventDefault()
    emit('back')
  }
})
</script>

<template>
  <div class="study">
    <p><ElButton size="small" name="back" @click="emit('back')">Back to keying <kbd>v</kbd></ElButton></p>
    <p v-if="asked.trouble.value" class="danger" role="alert">{{ asked.trouble.value }}</p>
    <template v-if="study">
      <section v-for="c in curves" :key="c.of" :data-curve="c.of">
        <h2>{{ c.title }} <a v-if="c.all.length" class="soft" :href="table(c.title)" download>CSV</a></h2>
        <template v-if="c.all.length">
          <CurvePlot :curves="c.all" :axis="c.of" />
          <details><summary class="soft">as a table</summary>
            <table class="drawn"><tbody><template v-for="k in c.all" :key="k.name"><tr v-for="p in k.points" :key="p.id"><td>{{ k.name }}</td><td class="n">{{ along(c.of, k, p.x) }}</td><td class="n">{{ p.w == null ? 'refused' : watts(p.w) }}</td><td class="n">{{ p.low_w == null ? '' : `${watts(p.low_w)} to ${watts(p.high_w)}` }}</td><td>{{ p.outside ? 'outside the band claimed' : '' }}</td></tr></template></tbody></table>
          </details>
        </template>
        <p v-else class="soft">{{ c.none }}</p>
      </section>
      <section>
        <h2>Current and efficiency <a v-if="study.drawn.length" class="soft" :href="table('Current and efficiency')" download>CSV</a></h2>
        <table v-if="study.drawn.length" class="drawn">
          <tbody>
            <tr v-for="d in study.drawn" :key="d.id">
              <td>{{ d.name }}, {{ megahertz(d.frequency_hz) }}</td><td class="n">{{ watts(d.w) }}</td><td class="n">{{ d.volts }} V</td><td class="n">{{ d.amps }} A</td>
              <td class="bar"><i :style="{ width: `${Math.min(100, d.efficiency_percent)}%` }" /></td><td class="n">{{ d.efficiency_percent.toFixed(0) }} %</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="soft">Note volts and amps with a reading: 4.8 7.4v 1.4a.</p>
      </section>
      <section>
        <h2>The same key-ups through two wirings</h2>
        <PairPlot v-for="p in study.pairs" :key="p.a + p.b" :pair="p" />
        <p v-if="study.pairs.length === 0" class="soft">Key a level again through another path (<kbd>m</kbd>), at two powers or more: it tells a cable from a meter.</p>
      </section>
      <section v-if="study.findings.length || study.kept.length">
        <h2>Noted beside power <a v-if="study.kept.length" class="soft" :href="table('Noted beside power')" download>CSV</a></h2>
        <p v-for="f in study.findings" :key="f.detail"><b>{{ words(f.detail) }}</b></p>
        <ul><li v-for="k in study.kept" :key="k.id + k.what">{{ k.where }}: <b>{{ k.what }}</b>, {{ words(k.detail) }}</li></ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.study {
  max-width: 980px;
}
h2 {
  font-size: 19px;
  margin: 18px 0 6px;
}
h2 a {
  font: 400 14px 'IBM Plex Sans', sans-serif;
}
.drawn td {
  padding: 2px 16px 2px 0;
}
.n {
  text-align: right;
}
.bar {
  width: 180px;
}
.bar i {
  display: block;
  height: 9px;
  background: var(--ink);
}
ul {
  padding-left: 18px;
}
</style>
