<script setup lang="ts">
// An analyzer's inputs and ranges, a line each.
import { ref, watch } from 'vue'
import type { Schemas } from '../../shared/server'
import { decimal } from '../../shared/numbers'

type Range = Schemas['PathRange']
const props = defineProps<{ ranges: Range[]; wrong: string }>()
const emit = defineEmits<{ change: [Range[]]; unread: [boolean] }>()

interface Row {
  name: string
  from: string
  to: string
  survives: string
  floor: string
  at: string
  rbw: string
}
const figure = (v: number | undefined, by = 1) => (v == null ? '' : String(Number((v / by).toPrecision(12))))
const rows = ref<Row[]>([])
let sent = ''
// What is no number is said, and nothing is sent until it is one.
const unread = ref('')
watch(
  () => props.ranges,
  (all) => {
    if (unread.value || JSON.stringify(all) === sent) return // what comes back is what was typed, or less
    rows.value = all.map((r) => ({ name: r.name ?? '', from: figure(r.from_hz, 1e6), to: figure(r.to_hz, 1e6), survives: figure(r.max_input_dbm), floor: figure(r.noise_floor_dbm), at: figure(r.floor_rbw_hz, 1e3), rbw: (r.rbw_hz ?? []).map((b) => figure(b, 1e3)).join(' ') }))
  },
  { immediate: true },
)

function send() {
  const odd = rows.value.flatMap((r) => [r.from, r.to, r.survives, r.floor, r.at, ...r.rbw.split(/\s+/)]).find((t) => t.trim() !== '' && Number.isNaN(decimal(t)))
  unread.value = odd === undefined ? '' : `“${odd.trim()}” is no number`
  emit('unread', odd !== undefined)
  if (odd !== undefined) return
  const out = rows.value.map((r): Range => {
    const one: Range = { from_hz: (decimal(r.from) || 0) * 1e6, to_hz: (decimal(r.to) || 0) * 1e6 }
    if (r.name.trim()) one.name = r.name.trim()
    if (!Number.isNaN(decimal(r.survives))) one.max_input_dbm = decimal(r.survives)
    if (!Number.isNaN(decimal(r.floor))) one.noise_floor_dbm = decimal(r.floor)
    if (!Number.isNaN(decimal(r.at))) one.floor_rbw_hz = decimal(r.at) * 1e3
    const bands = r.rbw.split(/\s+/).map(decimal).filter((b) => b > 0)
    if (bands.length) one.rbw_hz = bands.map((b) => b * 1e3)
    return one
  })
  sent = JSON.stringify(out)
  emit('change', out)
}
function more() {
  rows.value.push({ name: '', from: '', to: '', survives: '', floor: '', at: '', rbw: '' })
}
function less(i: number) {
  rows.value.splice(i, 1)
  send()
}
</script>

<template>
  <div class="ranges">
    <div class="line head"><span>input or range</span><span>from, MHz</span><span>to, MHz</span><span>survives, dBm</span><span>floor, dBm</span><span>at, kHz</span><span>bandwidths, kHz</span></div>
    <div v-for="(r, i) in rows" :key="i" class="line">
      <ElInput v-model="r.name" :name="`range-${i}-name`" :aria-label="`Input ${i + 1}, name`" placeholder="only one" @input="send" />
      <ElInput v-model="r.from" :name="`range-${i}-from`" :aria-label="`Input ${i + 1}, from, MHz`" @input="send" />
      <ElInput v-model="r.to" :name="`range-${i}-to`" :aria-label="`Input ${i + 1}, to, MHz`" @input="send" />
      <ElInput v-model="r.survives" :name="`range-${i}-survives`" :aria-label="`Input ${i + 1}, survives, dBm`" @input="send" />
      <ElInput v-model="r.floor" :name="`range-${i}-floor`" :aria-label="`Input ${i + 1}, floor, dBm`" @input="send" />
      <ElInput v-model="r.at" :name="`range-${i}-at`" :aria-label="`Input ${i + 1}, the floor’s bandwidth, kHz`" @input="send" />
      <ElInput v-model="r.rbw" :name="`range-${i}-rbw`" :aria-label="`Input ${i + 1}, bandwidths, kHz`" placeholder="1 10 100" @input="send" />
      <button type="button" class="link" :aria-label="`Take input ${i + 1} off`" @click="less(i)">off</button>
    </div>
    <em v-if="unread || wrong" class="danger" role="alert">{{ unread || wrong }}</em>
    <button type="button" class="link" @click="more">one more input or range</button>
    <small class="soft">The floor is as displayed with nothing connected, at that bandwidth and the input attenuation below.</small>
  </div>
</template>

<style scoped>
.ranges {
  grid-column: 1 / -1 !important;
}
.line {
  display: grid;
  grid-template-columns: 1.4fr repeat(5, 1fr) 1.4fr 34px;
  gap: 16px;
  align-items: end;
}
.head {
  font-size: 14px;
  color: var(--soft);
}
em {
  display: block;
  font-style: normal;
  font-size: 13px;
}
small {
  margin-left: 18px;
  font-size: 13px;
}
</style>
