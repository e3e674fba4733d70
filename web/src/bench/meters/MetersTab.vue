<script setup lang="ts">
// The same transmitters on several meters: each meter's offset against the
// others with its spread. It is offered, and counts only once it is accepted.
import { date } from '../../shared/figures'
import { computed, ref } from 'vue'
import { remember } from '../../shared/remember'
import { api, ask, send, useAsked, wordsOf, type Schemas } from '../../shared/server'
import { useBench } from '../bench'
import { decimal } from '../../shared/numbers'
import OffsetLine from './OffsetLine.vue'
import { spanOf } from './span'

// Those that read at the carrier of the bench are offered first.
const bench = useBench()
const asked = useAsked('baselines', () => [], () => ask(api.GET('/api/v1/baselines')))
const kept = computed(() => asked.answer.value ?? [])
const here = (decimal(bench.keyed.mhz) || 0) * 1e6
const chosen = ref<string[]>(bench.meters.filter((k) => (k.spec.meter?.from_hz ?? 0) <= here && (k.spec.meter?.to_hz ?? Infinity) >= here).slice(0, 3).map((k) => k.id))
const rows = remember('meters', [blank(), blank()])
const on = ref(new Date().toISOString().slice(0, 10))
const refused = ref('')

function blank() {
  return { transmitter: '', mhz: bench.keyed.mhz, readings: {} as Record<string, string> }
}
const nameOf = (id: string) => bench.byId.get(id)?.name ?? 'no longer on the bench'
const filled = computed(() => rows.value.filter((r) => chosen.value.some((id) => r.readings[id]?.trim())))
const asRows = () => filled.value.map((r) => ({ transmitter: r.transmitter, frequency_hz: (decimal(r.mhz) || 0) * 1e6, readings: chosen.value.map((id) => r.readings[id]?.trim() ?? '') }))

const worked = useAsked(
  'meters',
  () => (filled.value.length ? [{ meters: chosen.value.map(nameOf), rows: asRows() }] : null),
  (body: Schemas['ComputeBaselineIn']) => ask(api.POST('/api/v1/compute/meter-baseline', { body })),
)
const found = computed(() => worked.answer.value?.meters ?? [])
const trouble = computed(() => refused.value || worked.trouble.value || asked.trouble.value)

async function keep() {
  refused.value = ''
  const meters = chosen.value.map((id) => ({ kit_id: id, setting: bench.byId.get(id)?.first_setting ?? '' }))
  const measured = { measured_on: on.value, meters, rows: asRows() }
  const typed = JSON.stringify(rows.value)
  const got = await send({ what: 'baseline', review: '', label: `meters compared ${on.value}`, path: '/api/v1/baselines', json: (id) => ({ id, ...measured }) })
  if (!got.ok) refused.value = got.refusal.words
  else if (JSON.stringify(rows.value) === typed) rows.value = [blank(), blank()]
}
async function accept(b: Schemas['BaselineView'], kitId: string) {
  const item = bench.byId.get(kitId)
  if (!item) return
  try {
    bench.keepKit(await ask(api.POST('/api/v1/baselines/{id}/accept', { params: { path: { id: b.id } }, body: { kit_id: kitId, version: item.version } })))
    refused.value = ''
  } catch (e) {
    refused.value = wordsOf(e)
  }
}
async function forget(kitId: string) {
  const item = bench.byId.get(kitId)
  if (!item?.spec.meter) return
  const meter = { ...item.spec.meter }
  delete meter.baseline
  try {
    const body = { version: item.version, name: item.name, spec: { ...item.spec, meter }, retired: item.retired_at != null }
    bench.keepKit(await ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id: kitId } }, body })))
  } catch (e) {
    refused.value = wordsOf(e)
  }
}
const accepted = (b: Schemas['BaselineView'], i: number) => {
  const base = bench.byId.get(b.kit_ids[i]!)?.spec.meter?.baseline
  return base != null && base.on === b.measured_on && Math.abs(base.offset_db - (b.meters[i]!.offset_db ?? 99)) < 1e-9
}
/** Which other meter of the comparison is corrected already. */
const takenBy = (b: Schemas['BaselineView'], i: number) => b.kit_ids.filter((_, j) => j !== i).map((id) => bench.byId.get(id)).find((k) => k?.spec.meter?.baseline)?.name
</script>

<template>
  <div>
    <p class="soft intro">Key each transmitter into each meter in turn, with the same jumper and load. Which meters differ shows; which of them is right does not: the mean of the others is no standard, and a meter’s own accuracy stays in every budget.</p>
    <p v-if="bench.meters.length < 2" class="soft">It takes two meters: <RouterLink to="/bench/kit">write yours down among the kit</RouterLink>.</p>
    <fieldset v-else>
      <legend class="soft">Meters</legend>
      <label v-for="k in bench.meters" :key="k.id"><input v-model="chosen" type="checkbox" :value="k.id" :name="`meter-${k.id}`" /> {{ k.name }}</label>
    </fieldset>
    <p v-if="bench.meters.length > 1 && chosen.length < 2" class="soft">Tick two meters or more.</p>
    <div v-else-if="chosen.length > 1" class="sheet">
      <div class="row head soft" :style="{ gridTemplateColumns: `1.4fr 110px repeat(${chosen.length}, 1fr)` }"><span>transmitter, level</span><span>MHz</span><span v-for="id in chosen" :key="id">{{ nameOf(id) }}</span></div>
      <div v-for="(r, i) in rows" :key="i" class="row" :style="{ gridTemplateColumns: `1.4fr 110px repeat(${chosen.length}, 1fr)` }">
        <ElInput v-model="r.transmitter" :name="`row-${i}-name`" :aria-label="`Transmitter and level, row ${i + 1}`" placeholder="old handheld, high" />
        <ElInput v-model="r.mhz" :name="`row-${i}-mhz`" :aria-label="`MHz, row ${i + 1}`" inputmode="decimal" />
        <ElInput v-for="(id, j) in chosen" :key="id" v-model="r.readings[id]" :name="`row-${i}-${j}`" placeholder="4.71 4.8" :aria-label="`${nameOf(id)}, row ${i + 1}`" />
      </div>
      <button type="button" class="link" @click="rows.push(blank())">another transmitter or level</button>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <p v-if="found.length" class="soft scale">Against the mean of the others, {{ spanOf(found) }} dB to either side</p>
      <OffsetLine v-for="m in found" :key="m.meter" :meter="m" :span="spanOf(found)" />
      <p v-if="found.length"><label class="soft on">measured on <ElInput v-model="on" name="baseline-on" /></label> <ElButton type="primary" name="keep-baseline" @click="keep">Keep it; nothing is applied by that</ElButton></p>
    </div>
    <section v-for="b in [...kept].reverse()" :key="b.id" class="past">
      <h3>{{ date(b.measured_on) }}: {{ b.rows.length }} transmitters, {{ b.meters.length }} meters</h3>
      <p class="soft scale">{{ spanOf(b.meters) }} dB to either side</p>
      <OffsetLine v-for="(m, i) in b.meters" :key="m.meter" :meter="m" :span="spanOf(b.meters)">
        <p class="offer">
          <template v-if="accepted(b, i)">Taken out of later readings on it. <button type="button" class="link" @click="forget(b.kit_ids[i]!)">Take it out no more</button></template>
          <span v-else-if="takenBy(b, i)" class="soft">Not while {{ takenBy(b, i) }} has an offset taken out: this one stands against what that showed before.</span>
          <ElButton v-else-if="m.spread_db != null" size="small" :name="`accept-${i}`" @click="accept(b, b.kit_ids[i]!)">Take it out of later readings</ElButton>
        </p>
      </OffsetLine>
    </section>
    <p v-if="kept.length === 0 && bench.meters.length > 1" class="soft">No meters were compared yet.</p>
  </div>
</template>

<style scoped>
.intro {
  max-width: 860px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 10px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}
legend {
  font-size: 14px;
  float: left;
  margin-right: 10px;
}
.row {
  display: grid;
  gap: 18px;
  align-items: end;
}
.head {
  font-size: 14px;
}
.past {
  margin-top: 16px;
}
.scale {
  font-size: 14px;
  margin: 8px 0 0;
}
.offer {
  grid-column: 2 / -1;
  margin: 0 0 6px;
}
.on .el-input {
  width: 120px;
}
@media (max-width: 1150px) {
  .offer {
    grid-column: 1 / -1;
  }
}
@media (max-width: 820px) {
  .row {
    display: flex;
    flex-wrap: wrap;
  }
  .row > * {
    min-width: 0;
    max-width: 100%;
  }
}
</style>
