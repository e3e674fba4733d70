<script setup lang="ts">
// A picture of the analyzer's screen: two clicks set each axis, then each click is a peak.
import { useEventListener, useObjectUrl } from '@vueuse/core'
import { useHere } from '../../shared/here'
import { computed, nextTick, ref, watch } from 'vue'
import { decimal } from '../../shared/numbers'
import { dbm } from '../../shared/figures'
import { api, ask, useAsked } from '../../shared/server'

interface Place { x: number; y: number }
/** What was clicked and typed at a picture. */
export interface Work { set: Place[]; values: string[]; peaks: Place[]; log: boolean; slip: string; floor: string }
export interface Taken { text: string; toleranceHz: number; readingDB: number; picture: File }
const emit = defineEmits<{ take: [t: Taken]; leave: [] }>()
const props = defineProps<{ picture: File }>()
const url = useObjectUrl(() => props.picture)
const img = ref<HTMLImageElement>()
const size = ref({ w: 1, h: 1 })
const asks = [
  { name: 'x1', say: 'Click a place on the frequency axis, near its left end', unit: 'MHz' },
  { name: 'x2', say: 'and one near its right end', unit: 'MHz' },
  { name: 'y1', say: 'Click a place on the level axis, near its top', unit: 'dBm' },
  { name: 'y2', say: 'and one near its bottom', unit: 'dBm' },
] as const
const work = defineModel<Work | null>({ required: true })
const begun: Work = work.value ?? { set: [], values: ['', '', '', ''], peaks: [], log: false, slip: '1', floor: '' }
const set = ref(begun.set)
const values = ref(begun.values)
const peaks = ref(begun.peaks)
const log = ref(begun.log)
const slip = ref(begun.slip)
const floor = ref(begun.floor)
watch([set, values, peaks, log, slip, floor], () => (work.value = { set: set.value, values: values.value, peaks: peaks.value, log: log.value, slip: slip.value, floor: floor.value }), { deep: true })
const fields = ref<HTMLElement>()
const next = computed(() => asks[set.value.length])

function click(e: MouseEvent) {
  const box = img.value!.getBoundingClientRect()
  const at = { x: ((e.clientX - box.left) / box.width) * size.value.w, y: ((e.clientY - box.top) / box.height) * size.value.h }
  if (set.value.length < 4) {
    set.value.push(at)
    // What the place clicked stands for is typed next.
    const field = fields.value?.querySelector<HTMLInputElement>(`[name=axis-${asks[set.value.length - 1]!.name}]`)
    void nextTick(() => field?.select())
  } else peaks.value.push(at)
}
const here = useHere()
useEventListener('keydown', (e: KeyboardEvent) => {
  if (!here.value) return
  if (e.key === 'Escape') emit('leave')
  if (e.ctrlKey && e.key === 'z') {
    e.preventDefault()
    if (peaks.value.length) peaks.value.pop()
    else set.value.pop()
  }
})
const numbers = computed(() => values.value.map(decimal))
const axes = computed(() => {
  const [a, b, c, d] = set.value
  const [v, w, l, m] = numbers.value as [number, number, number, number]
  if (!a || !b || !c || !d || numbers.value.some(Number.isNaN) || !(decimal(slip.value) >= 0)) return null
  return {
    x: { scale: log.value ? ('log' as const) : ('linear' as const), at: [{ px: a.x, hz: v * 1e6 }, { px: b.x, hz: w * 1e6 }] },
    y: { at: [{ px: c.y, dbm: l }, { px: d.y, dbm: m }] },
    reading_px: decimal(slip.value),
    points: peaks.value.map((p) => ({ x_px: p.x, y_px: p.y })),
  }
})
const asked = useAsked('digitize', () => (axes.value ? [axes.value] as const : null), (body) => ask(api.POST('/api/v1/compute/digitize', { body: body as never })))
const read = computed(() => asked.answer.value?.points ?? [])
const range = computed(() => [numbers.value[0]!, numbers.value[1]!].sort((a, b) => a - b))

function take() {
  const floorPart = floor.value.trim() ? ` floor ${floor.value.trim()}` : ''
  const inside = read.value.map((p) => `${(p.frequency_hz / 1e6).toFixed(3)}MHz ${p.level_dbm.toFixed(1)}${p.level_dbm > 0 ? 'dBm' : ''}`)
  emit('take', {
    text: `${range.value.join('-')}${floorPart} ${inside.join(' ')}`,
    toleranceHz: Math.max(0, ...read.value.map((p) => 2 * p.frequency_u_hz)), readingDB: Math.max(0, ...read.value.map((p) => p.level_u_db)), picture: props.picture,
  })
}
</script>

<template>
  <div class="picture">
    <p aria-live="polite"><b v-if="next">{{ next.say }}.</b><b v-else>Click each peak.</b> <kbd>Ctrl Z</kbd> takes the last click back, <kbd>Esc</kbd> leaves.</p>
    <div class="two">
      <div class="on">
        <img v-if="url" ref="img" :src="url" alt="the screen" data-screen @load="size = { w: img!.naturalWidth, h: img!.naturalHeight }" @click="click" />
        <svg :viewBox="`0 0 ${size.w} ${size.h}`" preserveAspectRatio="none" aria-hidden="true">
          <g v-for="(p, i) in set" :key="`a${i}`"><line v-if="i < 2" :x1="p.x" :x2="p.x" y1="0" :y2="size.h" /><line v-else x1="0" :x2="size.w" :y1="p.y" :y2="p.y" /></g>
          <circle v-for="(p, i) in peaks" :key="`p${i}`" :cx="p.x" :cy="p.y" :r="size.w / 150" />
        </svg>
      </div>
      <div ref="fields" class="beside">
        <label v-for="(a, i) in asks" :key="a.name" :class="{ now: i === set.length }">{{ ['left', 'right', 'top', 'bottom'][i] }}, {{ a.unit }}<input v-model="values[i]" :name="`axis-${a.name}`" inputmode="decimal" /></label>
        <label class="line"><input v-model="log" type="checkbox" name="axis-log" /> frequencies run logarithmically</label>
        <label>floor seen, dBm<input v-model="floor" name="picture-floor" inputmode="decimal" placeholder="not noted" /></label>
        <label>a click may be off by, points<input v-model="slip" name="slip" inputmode="decimal" /></label>
        <p v-if="asked.trouble.value" class="danger" role="alert">{{ asked.trouble.value }}</p>
        <ol v-else data-read><li v-for="(p, i) in read" :key="i">{{ (p.frequency_hz / 1e6).toFixed(2) }} ± {{ ((2 * p.frequency_u_hz) / 1e6).toFixed(2) }} MHz, <b>{{ dbm(p.level_dbm) }}</b> ± {{ (2 * p.level_u_db).toFixed(1) }} dB</li></ol>
        <ElButton v-if="read.length" type="primary" name="take-picture" @click="take">Take these peaks</ElButton>
      </div>
    </div>
  </div>
</template>

<style scoped>
.picture {
  border: 1px solid var(--hair);
  padding: 8px 14px;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.7fr) minmax(0, 1fr);
  gap: 20px;
}
.on {
  position: relative;
  align-self: start;
}
img {
  width: 100%;
  display: block;
  cursor: crosshair;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
line,
circle {
  fill: none;
  stroke: var(--rust);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
label {
  display: grid;
  grid-template-columns: 1fr 110px;
  gap: 10px;
  font-size: 14px;
  color: var(--soft);
  margin: 3px 0;
}
label.now {
  color: var(--ink);
  font-weight: 600;
}
label.line {
  grid-template-columns: auto 1fr;
}
input:not([type]) {
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
ol {
  padding-left: 18px;
  font-size: 14px;
}
</style>
