<script setup lang="ts">
// A book drawn for one carrier: the limit over frequency, which term decides where, what is
// excluded round the carrier. Frequencies run logarithmically.
import { computed } from 'vue'
import { dbc, dbm, megahertz } from '../shared/figures'
import { api, ask, useAsked, type Mode, type Schemas } from '../shared/server'

const props = defineProps<{ book: Schemas['BookView'] | Record<string, unknown>; mhz: number; watts: number; mode: Mode; state: 'operating' | 'standby'; service: string }>()
// The book itself is asked about, as it stands or as it is being written.
const plain = computed(() => JSON.stringify({ ...props.book, id: props.book.id || 'new', own: undefined, wording: undefined, $schema: undefined }))
const f0 = computed(() => Math.round(props.mhz * 1e6))
const from = computed(() => Math.min(9e3, f0.value / 4))
const to = computed(() => Math.max(f0.value * 10.5, 5e9))
// Where the limit is asked for: along the axis, at the multiples, and close to the carrier.
const asked = computed(() => {
  const out = new Set<number>()
  for (let i = 0; i <= 260; i++) out.add(Math.round(from.value * (to.value / from.value) ** (i / 260)))
  for (let n = 1; n <= 10; n++) out.add(n * f0.value)
  for (const d of [5e3, 1e4, 1.25e4, 2e4, 3.2e4, 5e4, 6.3e4, 1e5]) {
    out.add(f0.value - d)
    out.add(f0.value + d)
  }
  for (const edge of [30e6, 1e9, 4e9]) {
    out.add(edge)
    out.add(edge + 1e3)
  }
  return [...out].filter((f) => f > 0 && f >= from.value && f <= to.value).sort((a, b) => a - b)
})
const answer = useAsked('limit', () => (props.mhz > 0 && props.watts > 0 ? ([plain.value, f0.value, props.watts, props.mode, props.state, props.service] as const) : null), (book, fundamental_hz, mean_power_w, mode, state, service) =>
  ask(api.POST('/api/v1/compute/limit', { body: { book: JSON.parse(book), fundamental_hz, mean_power_w, mode, state, ...(service ? { service } : {}), frequency_hz: asked.value } as never })) as unknown as Promise<Schemas['ComputeLimitOut']>)
const limits = computed(() => answer.answer.value?.limits ?? [])
const some = computed(() => limits.value.filter((l) => l.limit_dbm != null))
const W = 940
const H = 260
const x = (f: number) => 70 + (Math.log(f / from.value) / Math.log(to.value / from.value)) * (W - 110)
const top = computed(() => Math.max(10, ...some.value.map((l) => l.limit_dbm!)) + 10)
const bottom = computed(() => Math.min(-30, ...some.value.map((l) => l.limit_dbm!)) - 12)
const y = (l: number) => 14 + ((top.value - l) / (top.value - bottom.value)) * (H - 60)
interface Run { by: string; points: [number, number][]; citation: string }
const runs = computed(() => {
  const out: Run[] = []
  let open: Run | null = null
  for (const l of limits.value) {
    if (l.limit_dbm == null) {
      open = null
      continue
    }
    if (!open || open.by !== l.decided_by) {
      if (open) open.points.push([x(l.frequency_hz), y(l.limit_dbm)])
      open = { by: l.decided_by ?? '', points: [], citation: l.citation ?? '' }
      out.push(open)
    }
    open.points.push([x(l.frequency_hz), y(l.limit_dbm)])
  }
  return out
})
const terms: Record<string, string> = { relative: 'so many dB below the carrier', formula: 'A + 10 log10 P below it', absolute: 'at most so many dBm', floor: 'the floor' }
const wash = (r: Run) => `M${r.points[0]![0]},0 ${r.points.map((p) => `L${p[0]},${p[1]}`).join(' ')} L${r.points.at(-1)![0]},0Z`
const decades = computed(() => [1e4, 1e5, 1e6, 1e7, 1e8, 1e9].filter((f) => f > from.value && f < to.value))
const used = computed(() => [...new Set(runs.value.map((r) => r.by))])
const harmonics = computed(() => limits.value.filter((l) => l.frequency_hz % f0.value === 0 && l.frequency_hz > f0.value).slice(0, 4))
</script>

<template>
  <p v-if="answer.trouble.value" class="danger" role="alert">{{ answer.trouble.value }}</p>
  <p v-else-if="answer.answer.value && !answer.answer.value.applies" class="note">No limit for this carrier: {{ answer.answer.value.detail || 'no clause fits it' }}<template v-if="answer.answer.value.citation">, {{ answer.answer.value.citation }}</template>.</p>
  <!-- Its place is kept while the answer is on its way, so that nothing below it moves under a pointer. -->
  <figure v-else>
    <svg v-if="!runs.length" :viewBox="`0 0 ${W} ${H}`" />
    <svg v-else :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`The limit for ${mhz} MHz at ${watts} W: ${harmonics.map((l) => `${megahertz(l.frequency_hz)} ${l.limit_dbm == null ? 'none' : dbm(l.limit_dbm)}`).join(', ')}`" data-book-plot>
      <path v-for="(r, i) in runs" :key="`w${i}`" class="wash" :d="wash(r)" />
      <g v-for="f in decades" :key="f"><line class="hair" :x1="x(f)" :x2="x(f)" y1="0" :y2="H - 40" /><text :x="x(f)" :y="H - 24" text-anchor="middle">{{ megahertz(f) }}</text></g>
      <polyline v-for="(r, i) in runs" :key="`l${i}`" class="limit" :class="r.by" :points="r.points.map((p) => p.join(',')).join(' ')"><title>{{ r.citation }}</title></polyline>
      <line class="carrier" :x1="x(f0)" :x2="x(f0)" y1="0" :y2="H - 40" />
      <text class="on" :x="x(f0)" :y="H - 6" text-anchor="middle">carrier {{ megahertz(f0) }}</text>
      <g v-for="r in runs.filter((o, i) => i === 0 || runs[i - 1]!.points[0]![1] !== o.points[0]![1])" :key="`t${r.points[0]![0]}`"><text class="on" :x="r.points[0]![0] + 4" :y="r.points[0]![1] + 18">{{ dbm(limits.find((l) => l.limit_dbm != null && Math.abs(x(l.frequency_hz) - r.points[0]![0]) < 0.01)?.limit_dbm) }}</text></g>
    </svg>
    <figcaption class="soft">
      <span v-for="u in used" :key="u"><i :class="u" />{{ terms[u] }}</span>
      <span v-for="l in harmonics" :key="l.frequency_hz">{{ Math.round(l.frequency_hz / f0) }} f: {{ l.limit_dbm == null ? 'none' : dbm(l.limit_dbm) }}{{ l.limit_dbc == null ? '' : `, ${dbc(l.limit_dbc)}` }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 8px 0;
}
svg {
  width: 100%;
  height: auto;
}
.wash {
  fill: var(--wash);
}
.hair {
  stroke: var(--hair);
}
.limit {
  fill: none;
  stroke: var(--rust);
  stroke-width: 2.5;
}
.limit.relative {
  stroke-dasharray: 9 4;
}
.limit.formula {
  stroke-dasharray: 2 3;
}
.limit.floor {
  stroke-dasharray: 12 3 2 3;
}
.carrier {
  stroke: var(--ink);
  stroke-width: 2;
}
text {
  font-size: 13px;
  fill: var(--soft);
}
.on {
  fill: var(--ink);
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  align-content: flex-start;
  min-height: 2lh; /* the longest it gets */
  gap: 3px 20px;
  font-size: 14px;
}
i {
  display: inline-block;
  width: 26px;
  border-top: 2.5px solid var(--rust);
  margin-right: 6px;
  vertical-align: middle;
}
i.relative {
  border-top-style: dashed;
}
i.formula {
  border-top-style: dotted;
}
i.floor {
  border-top-style: double;
}
</style>
