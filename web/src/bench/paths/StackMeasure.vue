<script setup lang="ts">
// Parts measured in one piece: read without and with them, or their two-port
// file. The loss is seen as it is typed; kept, it replaces the printed sum on
// this path from then on.
import { computed, ref } from 'vue'
import { api, ask, NoAnswer, Refusal, send, useAsked, type Schemas } from '../../shared/server'
import { fine, megahertz } from '../../shared/figures'
import { useBench, type KeptPath } from '../bench'
import { decimal } from '../../shared/numbers'

const props = defineProps<{ path: KeptPath }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBench()

const names = computed(() => props.path.parts.map((p) => bench.byId.get(p.kit_id)?.name ?? '?'))
const ends = computed(() => bench.byId.get(props.path.parts.at(-1)?.kit_id ?? '')?.ends === true)
const lastPart = computed(() => props.path.parts.length - (ends.value ? 2 : 1))
const first = ref(0)
const reads = (id: string) => bench.byId.get(id)?.spec.meter != null
const firstMeter = props.path.parts.findIndex((p) => reads(p.kit_id))
const last = ref(Math.max(0, firstMeter > 0 ? firstMeter - 1 : lastPart.value))
const on = ref(new Date().toISOString().slice(0, 10))
// What can be read, at each of its scales or inputs.
const instruments = computed(() =>
  bench.owned
    .filter((k) => reads(k.id) || k.kind === 'analyzer')
    .flatMap((k) => (k.settings.length ? k.settings : ['']).map((setting) => ({ part: { kit_id: k.id, setting }, title: setting ? `${k.name}, ${setting}` : k.name }))),
)
const meter = ref(0)
const meterWith = ref(-1)
const rows = ref([{ mhz: bench.keyed.mhz, without: '', with: '' }])
const file = ref('')
const fileName = ref('')
const tolerance = ref('0.2')
const trouble = ref('')
const nobody = '00000000-0000-4000-8000-000000000000' // a preview is kept under no key

function body(id: string): Schemas['StackWrite'] {
  const out: Schemas['StackWrite'] = { id, version: props.path.version, first: first.value, last: last.value, measured_on: on.value }
  if (file.value) return { ...out, touchstone: file.value, tolerance_db: Math.max(0, decimal(tolerance.value) || 0) }
  const points = rows.value.filter((r) => r.without.trim() || r.with.trim()).map((r) => ({ frequency_hz: (decimal(r.mhz) || 0) * 1e6, without: r.without, with: r.with }))
  return { ...out, meter: instruments.value[meter.value]?.part, points, ...(meterWith.value >= 0 ? { meter_with: instruments.value[meterWith.value]!.part } : {}) }
}
const ready = computed(() => file.value !== '' || rows.value.some((r) => r.without.trim() && r.with.trim()))

interface Found {
  table: Schemas['PathMeasuredPoint'][]
  refused: Refusal | null
}
const found = useAsked(
  'stack',
  () => (ready.value ? [props.path.id, body(nobody)] : null),
  async (id: string, asked: Schemas['StackWrite']): Promise<Found> => {
    try {
      return { table: (await ask(api.POST('/api/v1/paths/{id}/stacks/preview', { params: { path: { id } }, body: asked }))).table, refused: null }
    } catch (e) {
      if (e instanceof NoAnswer) throw e
      return { table: [], refused: e as Refusal }
    }
  },
  (was, now) => was[0] === now[0],
)
const table = computed(() => found.answer.value?.table ?? [])
const refusedAt = computed(() => found.answer.value?.refused?.fields ?? [])
const wrong = computed<Record<string, string>>(() => Object.fromEntries(refusedAt.value.map((f) => [f.field.replace(/^body\./, ''), f.detail])))
const said = computed(() => trouble.value || found.trouble.value || refusedAt.value.filter((f) => !f.field.includes('points[')).map((f) => f.detail).join('; '))

async function keep() {
  trouble.value = ''
  const got = await send({ what: 'stack', review: '', label: `a stack of ${props.path.name}`, path: `/api/v1/paths/${props.path.id}/stacks`, json: (id) => body(id) })
  if (got.ok) emit('done')
  else trouble.value = got.refusal.words
}
async function take(files: FileList | null | undefined) {
  const f = files?.[0]
  if (!f) return
  if (f.size > 4 * 2 ** 20) {
    trouble.value = `${f.name} is over 4 MiB, the most that is read.`
    return
  }
  fileName.value = f.name
  file.value = await f.text()
}
</script>

<template>
  <form class="measure" @submit.prevent="keep">
    <h3>Measure a stack</h3>
    <p class="soft">Read a steady carrier without the parts, then with them in between; or give their .s2p file. Kept, the loss found counts on this path in later readings; older ones stay as they were.</p>
    <div class="line">
      <label>from <select v-model.number="first" name="first"><option v-for="(n, i) in names.slice(0, lastPart + 1)" :key="i" :value="i">{{ n }}</option></select></label>
      <label>to <select v-model.number="last" name="last"><option v-for="(n, i) in names.slice(0, lastPart + 1)" :key="i" :value="i" :disabled="i < first">{{ n }}</option></select></label>
      <label>on <ElInput v-model="on" name="measured-on" /></label>
    </div>
    <template v-if="!file">
      <div class="line">
        <label>read on <select v-model.number="meter" name="meter"><option v-for="(k, i) in instruments" :key="k.title" :value="i">{{ k.title }}</option></select></label>
        <label>with the stack, on <select v-model.number="meterWith" name="meter-with"><option :value="-1">the same</option><option v-for="(k, i) in instruments" :key="k.title" :value="i">{{ k.title }}</option></select></label>
      </div>
      <div v-for="(r, i) in rows" :key="i" class="line">
        <label>MHz <ElInput v-model="r.mhz" :name="`stack-${i}-mhz`" inputmode="decimal" /></label>
        <label>without <ElInput v-model="r.without" :name="`stack-${i}-without`" placeholder="4.71 4.8" /></label>
        <label>with <ElInput v-model="r.with" :name="`stack-${i}-with`" placeholder="-3.2 dBm" /></label>
        <span v-for="(w, f) in wrong" v-show="String(f).startsWith(`points[${i}]`)" :key="f" class="danger">{{ w }}</span>
      </div>
      <div class="line">
        <button type="button" class="link" @click="rows.push({ mhz: '', without: '', with: '' })">another frequency</button>
        <label class="upload">or load its .s2p <input type="file" name="stack-file" accept=".s2p,text/plain" @change="take(($event.target as HTMLInputElement).files)" /></label>
      </div>
    </template>
    <div v-else class="line">
      <span>{{ fileName }}</span>
      <label>good to within, ± dB <ElInput v-model="tolerance" name="tolerance" inputmode="decimal" /></label>
      <button type="button" class="link" @click="file = ''">readings instead</button>
    </div>
    <p v-if="said" class="danger" role="alert">{{ said }}</p>
    <p class="found" aria-live="polite">
      <template v-for="p in table.slice(0, 6)" :key="p.frequency_hz"><b>{{ fine(p.db) }}</b> ±{{ (2 * p.standard_uncertainty_db).toFixed(2) }} dB at {{ megahertz(p.frequency_hz) }}<br /></template>
      <span v-if="table.length > 6" class="soft">and {{ table.length - 6 }} more, up to {{ megahertz(table.at(-1)!.frequency_hz) }}</span>
    </p>
    <ElButton type="primary" native-type="submit" name="keep-stack" :disabled="table.length === 0">Keep it: it counts from now on</ElButton>
  </form>
</template>

<style scoped>
.measure {
  background: var(--sheet);
  border: 1px solid var(--hair);
  padding: 14px 18px;
  margin-top: 12px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  align-items: baseline;
  margin: 6px 0;
}
label {
  font-size: 14px;
  color: var(--soft);
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.el-input {
  width: 130px;
}
.found {
  font-size: 18px;
}
</style>
