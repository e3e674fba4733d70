<script setup lang="ts">
// The practice bench by itself: everything on it as eyes see it, what it is wired of, and the end.
import { computed, ref } from 'vue'
import { useBench, type Part } from '../bench/bench'
import PartsRow from '../bench/paths/PartsRow.vue'
import PartsShelf from '../bench/paths/PartsShelf.vue'
import { useReview } from '../reviews/review'
import { api, ask, askAnew, newKey, wordsOf } from '../shared/server'
import AnalyzerFace from './AnalyzerFace.vue'
import BenchScene from './BenchScene.vue'
import MeterFace from './MeterFace.vue'
import PracticeScore from './PracticeScore.vue'
import { usePractice } from './practice'

const book = useReview()
const bench = useBench()
const { now, hand, say, put, trouble, busy } = usePractice(() => book.id)
const seen = computed(() => now.value?.seen)
const wired = computed(() => bench.paths.find((p) => p.id === now.value?.wired))
const on = (kind: string) => wired.value?.parts.some((p) => bench.byId.get(p.kit_id)?.kind === kind) ?? false
const meter = computed(() => wired.value?.parts.map((p) => bench.byId.get(p.kit_id)).find((k) => k?.spec.meter))

// Laying it otherwise: parts are put in a row, and the radio connected to that.
const laying = ref<Part[] | null>(null)
const wrong = ref('')
/** Before what ends the path, where nothing can lie behind it. */
const before = () => (bench.byId.get(laying.value?.at(-1)?.kit_id ?? '')?.ends ? laying.value!.length - 1 : (laying.value?.length ?? 0))
function put1(kitId: string, at = before()) {
  laying.value?.splice(at, 0, { kit_id: kitId, setting: bench.byId.get(kitId)?.first_setting ?? '' })
}
function move(from: number, to: number) {
  const [p] = laying.value?.splice(from, 1) ?? []
  if (p) laying.value?.splice(to, 0, p)
}
async function lay() {
  wrong.value = ''
  const parts = laying.value ?? []
  const name = parts.map((p) => bench.byId.get(p.kit_id)?.name.split(',')[0]).join(', ')
  try {
    const kept = await ask(api.PUT('/api/v1/paths/{id}', { params: { path: { id: newKey() } }, body: { version: 0, name: `${name} (laid ${bench.paths.length + 1})`, socket: 'antenna', parts, supply: wired.value?.supply ?? undefined, applied_offset_db: 0, retired: false } }))
    bench.keepPath(kept)
    await hand({ wire: kept.id })
    laying.value = null
  } catch (e) {
    wrong.value = wordsOf(e)
  }
}

const suspected = ref<string[]>([])
const ending = ref(false)
async function end() {
  wrong.value = ''
  try {
    put(await ask(api.POST('/api/v1/reviews/{id}/practice/end', { params: { path: { id: book.id } }, body: { suspected: suspected.value } })))
    await askAnew('practice list')
  } catch (e) {
    wrong.value = wordsOf(e)
  }
}
const amps = ref('')
const volts = ref('')
</script>

<template>
  <div v-if="now && seen">
    <PracticeScore v-if="now.score" :score="now.score" />
    <template v-else>
      <p class="story">{{ now.story }} <span class="soft">Go through the stages as with a real radio (Power, Emissions, Ruling), set and key it in the strip above, and end it here.</span></p>
      <p v-if="trouble || wrong" class="danger" role="alert">{{ trouble || wrong }}</p>
      <BenchScene :now="now" />
      <p class="acts"><ElButton size="small" name="tighten" @click="hand({ tighten: true })">Tighten every connector</ElButton> <ElButton v-if="!laying" size="small" name="lay" @click="laying = (wired?.parts ?? []).map((p) => ({ ...p }))">Lay it otherwise</ElButton> <span class="soft">Nothing is keyed while you do. A hot load burns fingers here too.</span></p>
      <div v-if="laying" class="laying">
        <PartsShelf @add="put1" />
        <div>
          <PartsRow :parts="laying" :stairs="null" :width="640" @move="move" @remove="(i) => laying?.splice(i, 1)" @setting="(i, to) => (laying![i]!.setting = to)" @drop="put1" />
          <p><ElButton size="small" type="primary" name="connect" :disabled="laying.length === 0" @click="lay">Connect the radio to this</ElButton> <button type="button" class="link" @click="laying = null">leave it as it was</button></p>
        </div>
      </div>
      <div class="faces">
        <section v-if="meter"><h3>{{ meter.name }}</h3><MeterFace :watts="seen.meter" :blind="seen.blind" :full="60" /></section>
        <section v-if="on('analyzer')" class="wide"><h3>Analyzer</h3><AnalyzerFace :say="(line) => say('analyzer', line)" :busy="busy === 'analyzer'" /></section>
        <section v-if="now.supply" data-supply><h3>Supply</h3>
          <p class="mono shows">{{ seen.supplied ? seen.volts.toFixed(2) : '0.00' }} V <br />{{ seen.supplied ? seen.amps.toFixed(2) : '0.00' }} A</p>
          <p :class="{ danger: seen.limits }">{{ seen.limits ? 'limits' : `set to ${seen.set_v} V, at most ${seen.limit_a} A` }}</p>
          <p><button type="button" class="link" name="supply" @click="say('supply', `OUTP ${seen.supplied ? 'OFF' : 'ON'}`)">output {{ seen.supplied ? 'off' : 'on' }}</button></p>
          <p><label>V <input v-model="volts" name="supply-volts" @change="say('supply', `VOLT ${volts}`)" /></label> <label>A <input v-model="amps" name="supply-amps" @change="say('supply', `CURR ${amps}`)" /></label></p>
        </section>
      </div>
      <section class="end">
        <ElButton v-if="!ending" name="end" @click="ending = true">End it, and hold it against the truth</ElButton>
        <template v-else>
          <h3>What was wrong with this bench?</h3>
          <p class="soft">Tick what you believe. Then the rulings as they stand are scored, once.</p>
          <p class="suspicions"><label v-for="(says, id) in now.suspicions" :key="id"><input v-model="suspected" type="checkbox" :value="id" :name="`suspect-${id}`" /> {{ says }}</label></p>
          <ElButton type="primary" name="score" @click="end">Score it</ElButton> <button type="button" class="link" @click="ending = false">go on</button>
        </template>
      </section>
    </template>
  </div>
  <p v-else-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  <p v-else class="soft">Laying the bench out…</p>
</template>

<style scoped>
.story {
  font-size: 17px;
  max-width: 760px;
  margin: 0 0 8px;
}
.acts {
  margin: 4px 0 10px;
  font-size: 14px;
}
.laying {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 20px 30px;
  overflow-x: auto;
  border-top: 1px solid var(--hair);
  padding-top: 8px;
}
.faces {
  display: flex;
  flex-wrap: wrap;
  gap: 26px;
}
.faces section {
  flex: 0 0 250px;
}
.faces .wide {
  flex: 1 1 460px;
  max-width: 620px;
}
.faces h3,
.end h3 {
  margin: 6px 0;
  font-size: 15px;
}
.shows {
  font-size: 26px;
  margin: 0;
}
.faces input {
  width: 52px;
  font: inherit;
  color: var(--ink);
  background: transparent;
  border: 0;
  border-bottom: 1px solid var(--soft);
}
.end {
  border-top: 1px solid var(--hair);
  margin-top: 16px;
  padding-top: 12px;
}
.suspicions {
  columns: 2 300px;
}
.suspicions label {
  display: block;
  margin: 2px 0;
}
</style>
