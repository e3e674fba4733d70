<script setup lang="ts">
import { useHelp } from '../../shared/help'
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { sift, wasUsed } from '../../shared/search'
import { newKey, wordsOf } from '../../shared/server'
import { fine, megahertz, watts } from '../../shared/figures'
import TypedLine from '../../shared/TypedLine.vue'
import { cured, useBench, type Cure } from '../bench'
import { decimal } from '../../shared/numbers'
import KeyedStrip from '../KeyedStrip.vue'
import { keepPath, usePathDraft } from './draft'
import PartsRow from './PartsRow.vue'
import PartsShelf from './PartsShelf.vue'
import StackMeasure from './StackMeasure.vue'
import StairFindings from './StairFindings.vue'
import StairGauges from './StairGauges.vue'
import StairPicture from './StairPicture.vue'
import SupplyLine from './SupplyLine.vue'

const bench = useBench()
const route = useRoute()
const router = useRouter()
const kept = computed(() => bench.paths.find((p) => p.id === route.params.id))
const { draft, typed, parts, stairs, trouble: asking, past, change, undo } = usePathDraft(() => kept.value)
const refused = ref('')
const trouble = computed(() => [refused.value, typed.value?.trouble, ...(typed.value?.problems.map((p) => p.detail) ?? [])].filter(Boolean).join(' ') || asking.value)
const multiple = ref(1)
const measuring = ref(false)
const away = ref<string | null>(null) // the path that was just put away
const retired = computed(() => bench.bench?.paths.filter((p) => p.retired_at) ?? [])
const showRetired = ref(false)

// Without a path in the address the first one is opened.
watch(
  () => [route.params.id, bench.paths.length] as const,
  ([id, n]) => {
    if (n > 0 && !bench.paths.some((p) => p.id === id)) void router.replace(`/bench/paths/${bench.paths[0]!.id}`)
    measuring.value = false
  },
  { immediate: true },
)

// The kept ones are found by any part of their names.
const sought = ref('')
const found = computed(() => (sought.value.trim() ? sift(bench.paths, sought.value, (p) => p.name) : bench.paths))
function openFirst() {
  const first = found.value[0]
  if (!first || !sought.value.trim()) return
  sought.value = ''
  void router.push(`/bench/paths/${first.id}`)
}
watch(() => route.params.id, (id) => typeof id === 'string' && id && wasUsed(id))

// A part needs 92 px to be read; a longer path scrolls.
const board = ref<HTMLElement>()
const { width: room } = useElementSize(board)
const width = computed(() => Math.max(Math.floor(room.value), parts.value.length * 92))

function add(kitId: string, at?: number) {
  const k = bench.byId.get(kitId)
  if (!k) return
  const part = { kit_id: kitId, setting: k.first_setting }
  change((d) => {
    const last = d.parts.at(-1)
    const ends = (id: string) => bench.byId.get(id)?.ends === true
    const ended = last != null && ends(last.kit_id)
    if (ended && ends(kitId)) d.parts[d.parts.length - 1] = part
    else d.parts.splice(at ?? (ended ? d.parts.length - 1 : d.parts.length), 0, part)
  })
}
function move(from: number, to: number) {
  change((d) => {
    const [part] = d.parts.splice(from, 1)
    d.parts.splice(to, 0, part!)
  })
}
const remove = (at: number) => change((d) => d.parts.splice(at, 1))
const set = (at: number, to: string) => change((d) => (d.parts[at]!.setting = to))
const take = (c: Cure) => change((d) => (d.parts = cured(d.parts, c)))

async function begin(from?: typeof kept.value) {
  const made = from ?? { name: 'a new path', socket: '', parts: [], supply: null as never, applied_offset_db: 0, purpose: 'power', serves: [], in_use: false, scales: [], retired_at: null as never, id: '', version: 0 }
  try {
    const p = await bench.writePath({ ...made, id: newKey(), version: 0 }, { name: from ? `${from.name}, copy` : made.name })
    await router.push(`/bench/paths/${p.id}`)
    await nextTick()
    document.querySelector<HTMLInputElement>('[name=path-name]')?.select() // what it is called is typed first
  } catch (e) {
    refused.value = wordsOf(e)
  }
}
async function putAway() {
  const putting = typed.value
  if (!putting) return
  putting.change({ ...putting.now, retired: true })
  await putting.flush()
  if (putting.state === 'kept') away.value = putting.id
}
async function takeBack(id: string | null) {
  const p = retired.value.find((x) => x.id === id)
  if (!p) return
  const back = keepPath(p)
  back.change({ ...back.now, retired: false })
  await back.flush()
  if (back.state !== 'kept') return
  away.value = null
  void router.push(`/bench/paths/${p.id}`)
}

function measured() {
  measuring.value = false
}

useEventListener('keydown', (e: KeyboardEvent) => {
  const typing = e.target instanceof HTMLElement && ['INPUT', 'TEXTAREA'].includes(e.target.tagName)
  if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !typing) {
    e.preventDefault()
    undo()
  }
})
const states = { kept: 'kept', keeping: 'keeping…', waiting: 'not kept yet', refused: 'not kept', clashing: 'changed elsewhere too' }
useHelp(() => ({ title: 'Paths', keys: [['jumper, pad 40', 'in the line: a path of owned things'], ['← →', 'along the parts'], ['Shift →', 'moves a part'], ['Del', 'takes it off'], ['1 to 0', 'the carrier’s multiples, on the parts'], ['Ctrl Z', 'undoes']], words: ['path', 'staircase', 'lid', 'room', 'offset', 'pad', 'typical', 'harmonic', 'floor'] }))
</script>

<template>
  <div class="board">
    <aside>
      <ElInput v-if="bench.paths.length > 4" v-model="sought" name="sought-path" size="small" placeholder="search the paths" aria-label="Search the paths" @keydown.enter.prevent="openFirst" />
      <nav aria-label="Kept paths">
        <RouterLink v-for="p in found" :key="p.id" :to="`/bench/paths/${p.id}`">{{ p.name }}</RouterLink>
      </nav>
      <div v-if="retired.length" class="retired">
        <button type="button" class="link" name="retired" :aria-expanded="showRetired" @click="showRetired = !showRetired">{{ retired.length }} put away</button>
        <template v-if="showRetired"><button v-for="p in retired" :key="p.id" type="button" class="link" @click="takeBack(p.id)">take back {{ p.name }}</button></template>
      </div>
      <ElButton size="small" name="new-path" @click="begin()">New path</ElButton>
      <PartsShelf v-if="draft" @add="add" />
    </aside>
    <section v-if="draft">
      <KeyedStrip />
      <header>
        <ElInput :model-value="draft.name" name="path-name" aria-label="Name of the path" class="title" @update:model-value="(v: string) => change((d) => (d.name = v), false)" />
        <label class="soft">from socket <ElInput :model-value="draft.socket" name="socket" placeholder="antenna" @update:model-value="(v: string) => change((d) => (d.socket = v), false)" /></label>
        <span class="soft state" :class="{ danger: typed && !['kept', 'keeping'].includes(typed.state) }" aria-live="polite">{{ states[typed?.state ?? 'kept'] }}</span>
        <ElButton size="small" :disabled="past.length === 0" @click="undo">Undo <kbd>Ctrl Z</kbd></ElButton>
        <ElButton size="small" @click="begin(kept)">Copy</ElButton>
        <ElButton size="small" @click="putAway">Put away</ElButton>
      </header>
      <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
      <p v-for="c in typed?.clashes ?? []" :key="c.field" class="danger" role="alert">Another window changed {{ c.field === 'parts' ? 'the parts' : c.field.replaceAll('_', ' ') }} too. <ElButton size="small" @click="typed?.settle(c.field, 'mine')">Mine stands</ElButton> <ElButton size="small" @click="typed?.settle(c.field, 'theirs')">The other’s</ElButton></p>
      <p v-if="!bench.asked" class="danger">Give a carrier in MHz and one or more powers in W, such as 25/10/5.</p>
      <div ref="board" class="scroll" :class="{ empty: parts.length === 0 }" @dragover.prevent @drop.prevent="add($event.dataTransfer?.getData('text/x-kit') ?? '')">
        <PartsRow :parts="parts" :stairs="stairs" :width="width" @move="move" @remove="remove" @setting="set" @drop="add" @multiple="multiple = $event" />
        <StairPicture v-if="stairs && parts.length" :stairs="stairs" :multiple="multiple" :width="width" />
        <p v-if="parts.length === 0" class="soft start">An empty path. Pick the parts on the left in the order the signal passes them, from the radio to a load, a meter or an analyzer; the levels appear as you go.</p>
      </div>
      <div class="multiples" role="group" aria-label="Multiple of the carrier">
        <button v-for="n in 10" :key="n" type="button" :aria-pressed="n === multiple" @click="multiple = n">{{ n === 1 ? 'carrier' : `${n} f` }}</button>
        <span v-if="stairs" class="soft at">{{ megahertz(stairs.multiples.frequencies_hz[multiple - 1]!) }}, loss {{ stairs.loss_db[multiple - 1] == null ? 'not known' : `${fine(stairs.loss_db[multiple - 1]!)} ±${(2 * stairs.loss_standard_uncertainty_db[multiple - 1]!).toFixed(2)}` }}</span>
      </div>
      <p class="soft keys"><kbd>←</kbd> <kbd>→</kbd> part <kbd>Shift →</kbd> move <kbd>Del</kbd> off <kbd>1</kbd>–<kbd>0</kbd> multiple, on the parts</p>
      <template v-if="stairs">
        <StairFindings :stairs="stairs" @cure="take" />
        <StairGauges :stairs="stairs" :multiple="multiple" />
        <p class="soft small">Reckoned with {{ watts(stairs.source_w) }}, {{ stairs.source_why }}.<template v-if="stairs.typical.length"> Typical values, not their own, stand behind {{ stairs.typical.join(', ') }}.</template></p>
      </template>
      <div class="lower">
        <SupplyLine :draft="draft" @change="change" />
        <label class="soft offset">offset the instrument already adds, dB
          <TypedLine :value="String(draft.applied_offset_db)" name="applied" @commit="(v) => !Number.isNaN(decimal(v)) && change((d) => (d.applied_offset_db = decimal(v)))" />
        </label>
        <ElButton size="small" name="measure" :disabled="parts.length === 0" @click="measuring = !measuring">{{ measuring ? 'Not now' : 'Measure a stack' }}</ElButton>
        <a v-if="kept" :href="`/api/v1/paths/${kept.id}/touchstone`" download>as .s2p</a>
      </div>
      <StackMeasure v-if="measuring && kept" :path="kept" @done="measured" />
      <p class="soft small">Ratings and readings here are as you typed them. Each maker’s own limits, local law and your licence come first; hot loads and bare connectors burn.</p>
    </section>
    <section v-else class="soft none">
      <p>No path is kept yet. A path is what the signal passes from the radio’s antenna connector to the instrument; once drawn, every level on it is known before you key.</p>
      <p v-if="bench.owned.length > 0">Type its parts in the line above, with commas between them, or begin a <b>New path</b> and pick them.</p>
      <p v-else>It is made of what you own: type each thing in the line above, or <RouterLink to="/bench/kit">write down your kit</RouterLink> field by field. A load and a meter will do for power; pads and an analyzer for emissions. Or <RouterLink to="/bench/files">bring a bench in</RouterLink> from a file.</p>
    </section>
    <p v-if="away" class="undo" role="status">Put away. <ElButton size="small" @click="takeBack(away)">Take it back</ElButton></p>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: 26px;
  align-items: start;
}
aside {
  position: sticky;
  top: 12px;
  max-height: calc(100vh - 24px);
  overflow-y: auto;
}
nav a {
  display: block;
  text-decoration: none;
  padding: 3px 8px;
  font-size: 14px;
  line-height: 1.3;
  color: var(--soft);
  border-left: 3px solid transparent;
}
nav a.router-link-active {
  color: var(--ink);
  font-weight: 500;
  border-color: var(--ink);
  background: var(--sheet);
}
.retired {
  display: grid;
  gap: 3px;
  justify-items: start;
  margin: 6px 0 0 8px;
  color: var(--soft);
}
aside > .el-button {
  margin: 8px 0 14px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  margin: 10px 0 8px;
}
header .title {
  flex: 1 1 220px;
  font-size: 19px;
  font-weight: 600;
}
header label {
  font-size: 14px;
  display: flex;
  align-items: baseline;
  gap: 6px;
  white-space: nowrap;
}
header label .el-input {
  width: 90px;
}
header .el-button {
  margin: 0;
}
.state {
  font-size: 14px;
  min-width: 62px;
}
.scroll {
  overflow-x: auto;
  background: var(--sheet);
  border: 1px solid var(--hair);
}
.start {
  padding: 26px;
  max-width: 560px;
}
.multiples {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  align-items: baseline;
  margin: 4px 0 6px;
}
.multiples button {
  all: unset;
  cursor: pointer;
  padding: 2px 6px;
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
.at {
  margin-left: 10px;
  font-size: 14px;
}
.keys {
  font-size: 13px;
  margin: 0 0 6px;
}
.lower {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  align-items: baseline;
  border-top: 1px solid var(--hair);
  margin-top: 8px;
  padding-top: 8px;
  font-size: 14px;
}
.offset {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.offset .el-input {
  width: 60px;
}
.small {
  font-size: 14px;
}
@media (max-width: 1000px) {
  .board {
    grid-template-columns: minmax(0, 1fr);
  }
  aside {
    position: static;
    max-height: 300px;
  }
}
</style>
