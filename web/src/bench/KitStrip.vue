<script setup lang="ts">
// One thing on the bench as a strip over frequency, with its rating as a lid.
import { computed } from 'vue'
import type { Schemas } from '../shared/api/client'
import { dbm, megahertz, watts } from '../shared/figures'

const props = defineProps<{ item: Schemas['KitView'] }>()
const W = 620
const lowest = 1e5
const highest = 1e10
const x = (f: number) => (Math.log10(Math.min(Math.max(f, lowest), highest) / lowest) / 5) * W

const spans = computed(() => {
  const e = props.item.spec.element
  if (e.ranges?.length) return e.ranges.map((r) => [r.from_hz, r.to_hz] as const)
  const table = e.loss?.table
  const from = Math.max(e.from_hz ?? 0, table?.[0]?.frequency_hz ?? 0)
  const to = Math.min(e.to_hz ?? Infinity, table?.at(-1)?.frequency_hz ?? Infinity)
  return [[from, to] as const]
})
const lid = computed(() => {
  const e = props.item.spec.element
  const input = e.ranges?.[0]?.max_input_dbm
  if (input != null) return `input survives ${dbm(input)}`
  return e.max_w == null ? (e.kind === 'cable' || e.kind === 'adapter' ? '' : 'no rating known') : `takes ${watts(e.max_w)}`
})
const reach = computed(() => spans.value.map(([a, b]) => (b === Infinity ? 'any frequency' : `${megahertz(a)} to ${megahertz(b)}`)).join(', '))
const checked = computed(() => {
  const on = props.item.spec.checked_on
  if (!on) return 'never checked'
  const months = Math.round((Date.now() - Date.parse(on)) / 2.63e9)
  return `checked ${on}, ${months === 0 ? 'this month' : `${months} months ago`}`
})
</script>

<template>
  <div class="item">
    <div>
      <b>{{ item.name }}</b>
      <p class="soft">{{ item.spec.note || item.spec.element.kind }}; {{ checked }}</p>
    </div>
    <svg :viewBox="`0 0 ${W} 40`" role="img" :aria-label="`${item.name}: ${reach}`">
      <line v-for="d in 6" :key="d" class="decade" :x1="((d - 1) / 5) * W" :x2="((d - 1) / 5) * W" y1="4" y2="30" />
      <g v-for="([a, b], i) in spans" :key="i">
        <rect class="body" :x="x(a)" y="14" :width="Math.max(2, x(b) - x(a))" height="14" />
        <path class="lid" :d="`M${x(a)} 12V8H${x(b)}V12`" />
      </g>
    </svg>
    <span class="soft reach">{{ reach }}<br />{{ lid }}</span>
  </div>
</template>

<style scoped>
.item {
  display: grid;
  grid-template-columns: 300px 1fr 230px;
  gap: 20px;
  align-items: center;
  border-top: 1px solid var(--hair);
  padding: 8px 0;
}
p,
.reach {
  font-size: 14px;
  margin: 0;
}
.body {
  fill: color-mix(in srgb, var(--ink) 28%, transparent);
}
.lid {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.decade {
  stroke: var(--hair);
}
</style>
