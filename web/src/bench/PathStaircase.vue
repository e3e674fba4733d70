<script setup lang="ts">
// Parts left to right from the radio's socket; under them the level at each
// point as descending steps. A part's rating is a lid: a step that touches its
// lid is danger.
import { useEventListener } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'
import { api, ask, type Refusal, type Staircase } from '../shared/api/client'
import { db, dbm, fine, megahertz, watts } from '../shared/figures'

const props = defineProps<{ pathId: string; frequencyHz: number; claimedW: number; measuredW?: number; mode?: string; ruleBook?: string; compact?: boolean }>()
const emit = defineEmits<{ safe: [boolean] }>()

const stairs = ref<Staircase | null>(null)
const trouble = ref('')
const multiple = ref(1)

watchEffect(async () => {
  const query = { frequency_hz: props.frequencyHz, claimed_w: props.claimedW, measured_w: props.measuredW ?? 0, mode: (props.mode ?? 'FM') as 'FM', rule_book: props.ruleBook ?? 'us-amateur' }
  try {
    stairs.value = await ask(api.GET('/api/v1/paths/{id}/staircase', { params: { path: { id: props.pathId }, query } }))
    trouble.value = ''
    emit('safe', stairs.value.safe)
  } catch (e) {
    trouble.value = (e as Refusal).words
    emit('safe', false)
  }
})

// Keys 1 to 9 and 0 move it to the carrier's multiples, where it has the focus.
const box = ref<HTMLElement>()
useEventListener(box, 'keydown', (e: KeyboardEvent) => {
  if (/^[0-9]$/.test(e.key)) {
    multiple.value = Number(e.key) || 10
    e.stopPropagation()
  }
})

const W = props.compact ? 420 : 1000
const H = props.compact ? 210 : 250
const titleLength = props.compact ? 15 : 30
const top = 46
const bottom = 58

const scale = computed(() => {
  const s = stairs.value!
  const levels = s.multiples.nodes.flatMap((n) => n.arriving_dbm).filter((v): v is number => v != null)
  const lids = s.lids_dbm.filter((v): v is number => v != null)
  const high = Math.max(...levels, ...lids) + 4
  const low = Math.min(...levels, ...lids) - 6
  return (v: number) => top + ((high - v) / (high - low)) * (H - top - bottom)
})

const steps = computed(() => {
  const s = stairs.value
  if (!s) return []
  const k = multiple.value - 1
  const width = W / s.titles.length
  return s.titles.map((title, i) => {
    const node = s.multiples.nodes[i]!
    const level = node.arriving_dbm[k] ?? null
    const lid = s.lids_dbm[i] ?? null
    const found = s.problems.filter((p) => p.element === i)
    return {
      title,
      x: i * width,
      width,
      level,
      w: node.arriving_w[k] ?? null,
      y: level == null ? null : scale.value(level),
      lid,
      lidY: lid == null ? null : scale.value(lid),
      danger: found.some((p) => p.severity === 'danger'),
      near: found.some((p) => p.code.startsWith('near')),
    }
  })
})

const line = computed(() => {
  let d = ''
  for (const s of steps.value) {
    if (s.y == null) continue
    d += `${d ? 'V' : 'M' + s.x + ' '}${s.y.toFixed(1)}H${(s.x + s.width).toFixed(1)}`
  }
  return d
})

// At the carrier itself nothing is limited: the multiple with least to spare is shown.
const spareAt = computed(() => {
  const spares = stairs.value?.spare_db ?? []
  if (multiple.value > 1) return multiple.value - 1
  let least = 1
  spares.forEach((v, k) => {
    if (v != null && (spares[least] == null || v < spares[least]!)) least = k
  })
  return least
})
const spare = computed(() => stairs.value?.spare_db[spareAt.value] ?? null)
const visible = computed(() => stairs.value?.multiples.lowest_visible_dbm?.[spareAt.value] ?? null)
</script>

<template>
  <div ref="box" class="staircase" tabindex="0" :aria-label="stairs ? `Levels along ${stairs.name}` : 'Levels along the path'">
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <template v-if="stairs">
      <header v-if="!compact">
        <h3>{{ stairs.name }}</h3>
        <span class="multiples" role="group" aria-label="Multiple of the carrier">
          <button v-for="n in 10" :key="n" type="button" :aria-pressed="n === multiple" @click="multiple = n">{{ n === 1 ? 'carrier' : `${n} f` }}</button>
        </span>
      </header>
      <svg :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="`At ${megahertz(stairs.multiples.frequencies_hz[multiple - 1]!)}`">
        <g v-for="(s, i) in steps" :key="i">
          <line class="part" :x1="s.x" :x2="s.x" :y1="4" :y2="H - 4" />
          <text class="title" :x="s.x + 6" y="16">{{ s.title.length > titleLength ? s.title.slice(0, titleLength - 1) + '…' : s.title }}</text>
          <g v-if="s.lidY != null" class="lid" :class="{ hot: s.danger, near: s.near }">
            <path :d="`M${s.x + 8} ${s.lidY + 6}v-6H${s.x + s.width - 8}v6`" />
            <text :x="s.x + s.width - 12" :y="s.lidY - 5" text-anchor="end">takes {{ dbm(s.lid) }}</text>
          </g>
          <g v-if="s.y != null" :class="{ hot: s.danger }">
            <text class="level" :x="s.x + 6" :y="H - 32">{{ dbm(s.level) }}</text>
            <text class="watts" :x="s.x + 6" :y="H - 12">{{ watts(s.w) }}</text>
          </g>
          <text v-else class="watts" :x="s.x + 6" :y="H - 32">no answer here</text>
        </g>
        <path class="steps" :d="line" />
      </svg>
      <ul v-if="stairs.problems.length" class="problems">
        <li v-for="(p, i) in stairs.problems" :key="i" :class="p.severity">
          <b>{{ p.severity === 'danger' ? 'Danger' : 'Caution' }}:</b> {{ p.detail }}
        </li>
      </ul>
      <div v-if="!compact" class="below">
        <div class="gauge">
          <span class="soft">{{ stairs.headroom_db != null ? 'room before the analyzer is damaged' : 'room to the nearest rating' }}</span>
          <b :class="{ danger: (stairs.headroom_db ?? stairs.tightest_db ?? 1) < 0 }">{{ db(stairs.headroom_db ?? stairs.tightest_db) }}</b>
        </div>
        <div v-if="visible != null" class="gauge">
          <span class="soft">lowest visible at {{ spareAt + 1 }} f, {{ dbm(visible) }}: under the limit by</span>
          <b :class="{ danger: spare != null && spare < 0 }">{{ spare == null ? 'no limit' : db(spare) }}</b>
        </div>
        <dl class="dial">
          <dt>Dial these in</dt>
          <dd v-for="d in stairs.dial_in" :key="d.what"><span class="soft">{{ d.what }}</span> {{ d.value }}</dd>
        </dl>
      </div>
      <p class="soft small">
        Reckoned with {{ watts(stairs.source_w) }}, {{ stairs.source_why }}; loss to the instrument
        {{ stairs.multiples.total_loss_db[multiple - 1] == null ? 'not known here' : fine(stairs.multiples.total_loss_db[multiple - 1]!) }} at
        {{ megahertz(stairs.multiples.frequencies_hz[multiple - 1]!) }}.
      </p>
    </template>
  </div>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 8px;
}
.multiples button {
  all: unset;
  cursor: pointer;
  padding: 2px 7px;
  font-size: 14px;
  color: var(--soft);
}
.multiples button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  box-shadow: 0 2px 0 var(--ink);
}
.multiples button:focus-visible {
  outline: 2px solid var(--ink);
}
svg {
  width: 100%;
  height: auto;
  display: block;
  margin: 8px 0;
  border-top: 1px solid var(--hair);
  border-bottom: 1px solid var(--hair);
}
.part {
  stroke: var(--hair);
}
.title {
  font-size: 14px;
  fill: var(--soft);
}
.steps {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3;
}
.lid path {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.5;
}
.lid text {
  font-size: 12px;
  fill: var(--soft);
}
.lid.near path {
  stroke: var(--amber);
  stroke-width: 2.5;
}
.lid.hot path {
  stroke: var(--rust);
  stroke-width: 3;
}
.level {
  font-size: 18px;
  font-weight: 600;
  fill: var(--ink);
}
.watts {
  font-size: 15px;
  fill: var(--soft);
}
.hot text {
  fill: var(--rust);
}
.problems {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.problems li {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
  margin: 4px 0;
}
.problems .danger {
  border-color: var(--rust);
}
.below {
  display: flex;
  gap: 40px;
  align-items: start;
}
.gauge b {
  display: block;
  font-size: 34px;
  line-height: 1.2;
}
.gauge span {
  font-size: 14px;
}
.dial {
  margin: 0;
  flex: 1;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 18px;
  font-size: 15px;
}
.dial dt {
  font-weight: 600;
  grid-column: 1 / -1;
}
.dial dd {
  margin: 0;
}
.dial dd:last-child {
  grid-column: 1 / -1;
}
.gauge {
  max-width: 270px;
}
.small {
  font-size: 14px;
}
</style>
