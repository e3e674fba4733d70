<script setup lang="ts">
// The spectrum at the connector: trace in ink, the limit as a ceiling with the
// forbidden region washed, noise as ground, what was not examined hatched.
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent } from 'echarts/components'
import { init, use, type ECharts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { useMutationObserver, useResizeObserver } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Emissions } from '../../shared/server'
import { db, dbc, dbm, megahertz } from '../../shared/figures'

use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, TooltipComponent, CanvasRenderer])

const props = defineProps<{ emissions: Emissions; pointed?: number | null; from: number; to: number }>()
/** The plot in words, for whoever cannot see it. */
const inWords = computed(() => {
  const e = props.emissions
  const products = (e.ruling?.products ?? []).filter((p) => p.seen).map((p) => `${p.name} ${p.level_dbm == null ? dbc(p.dbc) : dbm(p.level_dbm)}${p.margin_db == null ? '' : `, margin ${db(p.margin_db)}`}`)
  const limits = e.ceiling.filter((p) => p.limit_dbm != null).map((p) => `${dbm(p.limit_dbm)} from ${megahertz(p.from_hz)} to ${megahertz(p.to_hz)}`)
  return `Carrier at ${megahertz(e.frequency_hz)}. Limit: ${limits.join('; ') || 'none'}. Seen: ${products.join('; ') || 'no product'}. Examined: ${(e.ruling?.coverage.examined ?? []).map(([a, b]) => `${megahertz(a ?? 0)} to ${megahertz(b ?? 0)}`).join(', ') || 'nothing'}.`
})
const box = ref<HTMLDivElement>()
let chart: ECharts | undefined

const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

function hatch(): { image: HTMLCanvasElement; repeat: string } | string {
  const tile = document.createElement('canvas')
  tile.width = tile.height = 8
  const pen = tile.getContext('2d')
  if (!pen) return colour('--noise')
  pen.strokeStyle = colour('--soft')
  pen.globalAlpha = 0.45
  pen.beginPath()
  pen.moveTo(0, 8)
  pen.lineTo(8, 0)
  pen.stroke()
  return { image: tile, repeat: 'repeat' }
}

function draw() {
  if (!chart) return
  const e = props.emissions
  const inForce = e.sweeps.filter((s) => s.standing === 'in-force')
  const { from, to } = props // the strip below it spans the same
  const all = inForce.flatMap((s) => s.picture)
  const highs = all.map((b) => b.high_dbm).filter((v): v is number => v != null)
  const lows = all.flatMap((b) => [b.low_dbm, b.noise_dbm]).filter((v): v is number => v != null)
  const top = Math.ceil((Math.max(...highs) + 4) / 10) * 10
  const bottom = Math.floor(Math.min(...lows) / 10) * 10
  const [ink, soft, rust, hair] = [colour('--ink'), colour('--soft'), colour('--rust'), colour('--hair')]

  // The ceiling stops at the carrier, which is no emission; by enough to be seen.
  const aside = Math.max(e.ruling?.coverage.near_carrier_hz ?? 0, (to - from) / 160)
  const limits = e.ceiling.filter((p) => p.limit_dbm != null).flatMap((p) => apart(p, e.frequency_hz - aside, e.frequency_hz + aside))
  const washed = limits.map((p) => [{ xAxis: p.from_hz, yAxis: p.limit_dbm! }, { xAxis: p.to_hz, yAxis: top }])
  const unseen = gaps(e, from, to).map(([a, b]) => [{ xAxis: a, yAxis: bottom }, { xAxis: b, yAxis: top }])
  const labelled = (e.ruling?.products ?? []).filter((p) => p.seen && p.level_dbm != null)
  // As many multiples are named as there is room for, and as many with their frequency.
  const apiece = ((box.value?.clientWidth ?? 900) - 100) * (e.frequency_hz / (to - from))
  const every = Math.max(1, Math.ceil(48 / apiece))
  const inFull = Math.max(1, Math.ceil(92 / (apiece * every)))

  const scaleAndLimit = {
    silent: true, symbol: 'none', animation: false, z: 0,
    label: { show: true, position: 'start', distance: 6, color: soft, lineHeight: 16, fontSize: 13, formatter: (p: { name: string }) => p.name },
    data: [
      ...multiples(e.frequency_hz, from, to, every).map((n, i) => ({
        xAxis: n * e.frequency_hz, name: `${n === 1 ? 'carrier' : `${n} f`}\n${i % inFull ? '' : megahertz(Math.round((n * e.frequency_hz) / 1e5) * 1e5)}`,
        lineStyle: { color: hair, type: 'solid', width: 1 },
      })),
      ...limits.map((p) => [
        { coord: [p.from_hz, p.limit_dbm!], name: '', lineStyle: { color: rust, width: 2, type: 'solid' }, label: { show: false } },
        { coord: [p.to_hz, p.limit_dbm!] },
      ]),
    ],
  }
  const washedAndUnseen = {
    silent: true, z: 0,
    data: [
      ...washed.map(([a, b]) => [{ ...a, itemStyle: { color: colour('--wash') } }, b]),
      ...unseen.map(([a, b]) => [{ ...a, itemStyle: { color: hatch() } }, b]),
    ],
  }

  chart.setOption(
    {
      animation: false,
      grid: { left: 70, right: 30, top: 10, bottom: 46 },
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'line', lineStyle: { color: soft, type: 'solid' } },
        backgroundColor: colour('--sheet'),
        borderColor: hair,
        textStyle: { color: ink, fontFamily: 'IBM Plex Sans' },
        formatter: (rows: { value: [number, number]; seriesName: string }[]) => {
          const r = rows.find((x) => x.seriesName !== 'noise')
          if (!r) return ''
          return `${megahertz(r.value[0])}, ${(r.value[0] / e.frequency_hz).toFixed(3)} f<br><b>${dbm(r.value[1])}</b> at the connector`
        },
      },
      xAxis: {
        type: 'value', min: from, max: to,
        interval: e.frequency_hz * every,
        axisLine: { onZero: false, lineStyle: { color: soft } },
        splitLine: { show: false },
        axisTick: { show: false },
        axisLabel: { show: false },
      },
      yAxis: {
        type: 'value', min: bottom, max: top,
        axisLabel: { color: soft, showMinLabel: false, showMaxLabel: false, formatter: (v: number) => dbm(v).replace('.0', '') },
        splitLine: { lineStyle: { color: hair, width: 0.6 } },
      },
      series: [
        ...inForce.map((s, i) => ({
          name: 'noise', type: 'line', silent: true, symbol: 'none', lineStyle: { width: 0 }, z: 1,
          areaStyle: { color: colour('--noise'), origin: 'start' },
          data: s.picture.filter((b) => !s.look || b.noise_dbm != null).map((b) => [b.frequency_hz, b.noise_dbm]),
          markLine: i > 0 ? undefined : scaleAndLimit,
          markArea: i > 0 ? undefined : washedAndUnseen,
        })),
        ...inForce.map((s, i) => ({
          name: s.name, type: 'line', symbol: 'none', z: 3,
          // The newest in ink, what it rests on before it paler.
          lineStyle: { color: i === inForce.length - 1 ? ink : soft, width: i === inForce.length - 1 ? 1.2 : 0.8 },
          // Figures of a list stand by themselves: nothing between them was looked at.
          data: s.picture.flatMap((b) => s.list || s.look ? (b.high_dbm == null ? [[b.frequency_hz, null]] : [[b.frequency_hz, bottom], [b.frequency_hz, b.high_dbm], [b.frequency_hz, null]]) : (b.low_dbm == null ? [[b.frequency_hz, null]] : [[b.frequency_hz, b.low_dbm], [b.frequency_hz, b.high_dbm]])),
        })),
        {
          name: 'noise', type: 'line', silent: true, lineStyle: { width: 0 }, symbolSize: 0.1, symbol: 'circle', z: 4,
          data: labelled.map((p) => ({ value: [p.frequency_hz, p.level_dbm], label: { align: p.frequency_hz! > to - 0.12 * (to - from) ? 'right' : p.frequency_hz! < from + 0.08 * (to - from) ? 'left' : 'center' } })),
          label: {
            show: true, position: 'top', distance: 4, color: ink, fontSize: 13, fontFamily: 'IBM Plex Sans',
            formatter: (r: { dataIndex: number }) => labelled[r.dataIndex]!.name.replace(' harmonic', '').replace('spur at', 'spur'),
          },
          labelLayout: { hideOverlap: true },
        },
      ],
    },
    { notMerge: true },
  )
}

/** Where a line through what a rung points at stands, in px: over the chart, which need not be drawn anew. */
const mark = ref<number | null>(null)
function point() {
  const at = props.pointed == null ? NaN : Number(chart?.convertToPixel({ xAxisIndex: 0 }, props.pointed))
  mark.value = Number.isFinite(at) ? at : null
}

type Piece = Emissions['ceiling'][number]

/** What of a stretch lies outside two bounds. */
function apart(p: Piece, lo: number, hi: number): Piece[] {
  return [{ ...p, to_hz: Math.min(p.to_hz, lo) }, { ...p, from_hz: Math.max(p.from_hz, hi) }].filter((x) => x.to_hz > x.from_hz)
}

function multiples(f: number, from: number, to: number, every: number): number[] {
  const out: number[] = []
  for (let n = 1; n * f <= to; n += every) if (n * f >= from) out.push(n)
  return out
}

/** The stretches between from and to that no sweep in force examined, or where noise hides the limit. */
function gaps(e: Emissions, from: number, to: number): [number, number][] {
  const out: [number, number][] = []
  let at = from
  for (const [a, b] of e.ruling?.coverage.examined ?? []) {
    if ((a ?? 0) > at) out.push([at, a ?? 0])
    at = Math.max(at, b ?? 0)
  }
  if (at < to) out.push([at, to])
  for (const [a, b] of e.ruling?.coverage.blind ?? []) out.push([a ?? 0, b ?? 0])
  return out
}

onMounted(() => {
  chart = init(box.value!)
  draw()
})
onBeforeUnmount(() => chart?.dispose())
watch(() => props.emissions, draw)
watch(() => props.pointed, point)
useResizeObserver(box, () => {
  chart?.resize()
  draw()
  point()
})
useMutationObserver(document.documentElement, draw, { attributes: true, attributeFilter: ['class'] })
</script>

<template>
  <figure>
    <i v-if="mark != null" class="mark" data-mark :style="{ left: `${mark}px` }" />
    <div ref="box" class="plot" role="img" aria-label="Spectrum at the antenna connector with the limit as a ceiling" aria-describedby="plot-in-words" />
    <figcaption id="plot-in-words" class="unseen-words">{{ inWords }}</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  position: relative;
}
.mark {
  position: absolute;
  top: 10px;
  height: 174px;
  border-left: 2px dashed var(--ink);
  pointer-events: none;
  z-index: 1;
}
.unseen-words {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
.plot {
  height: 230px;
}
</style>
