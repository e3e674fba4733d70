<script setup lang="ts">
// An item's fields, typed in place. What is refused stays as it was typed, with
// the reason beside it; everything else is kept as it comes.
import { date } from '../../shared/figures'
import { computed, ref } from 'vue'
import { api, ask, forgetKept, wordsOf } from '../../shared/server'
import { useBench, type Kit } from '../bench'
import AnalyzerRanges from './AnalyzerRanges.vue'
import { useInstruments } from '../../shared/instruments'
import KitSocket from './KitSocket.vue'
import { fieldsOf, get, put, read, show, type Field, type Spec } from './fields'
import { keepKit, useCarrier } from './keptKit'

const props = defineProps<{ item: Kit }>()
const emit = defineEmits<{ removed: [] }>()
const bench = useBench()
const known = useInstruments()
// What is typed of an item is bound to the item, not to this card.
const kept = keepKit(props.item)
const carrier = useCarrier()

const spec = computed(() => kept.now.spec)
const fileTrouble = ref('')
const removing = ref('')
const states = { kept: 'kept', keeping: 'keeping…', waiting: 'not kept yet', refused: 'not kept', clashing: 'changed elsewhere too' }

const groups = computed(() => fieldsOf(props.item.kind))
const fields = computed(() => groups.value.flatMap((g) => g.fields))
const idOf = (f: Field) => `${props.item.id} ${f.path}`.replace(/\W/g, '-')
const text = (f: Field) => kept.texts[f.path] ?? show(spec.value, f)
const typical = (f: Field) => spec.value.typical?.includes(f.path) || spec.value.typical?.some((t) => t.startsWith(`${f.path}.`))
/** What counts for a field that nobody filled in: never as if the thing were perfect. */
function stands(f: Field): string {
  const item = bench.byId.get(props.item.id)
  if (!item?.counted.typical?.includes(f.path)) return ''
  return f.path === 'meter.repeatability_pct' ? item.repeats : `${show(item.counted, f)}, typical`
}
const file = computed(() => spec.value.element.loss?.touchstone)
const oneport = computed(() => spec.value.element.swr_touchstone)
const unread = ref<Record<string, string>>({})

function change(next: Spec) {
  kept.change({ ...kept.now, spec: next })
}
/** Where several forms say the same, the newest counts: the others go. */
function alone(next: Spec, newest: string): Spec {
  for (const o of bench.kinds?.instead[newest] ?? []) if (get(next, o) !== undefined) next = put(next, o, undefined)
  return next
}
function type(f: Field, value: string) {
  try {
    let next = put(spec.value, f.path, read(value, f))
    if (f.path.startsWith('meter.')) next.meter ??= {}
    if (value.trim()) next = alone(next, f.path)
    delete unread.value[f.path]
    kept.hold(f.path, value, true)
    change(next)
  } catch (e) {
    unread.value[f.path] = wordsOf(e)
    kept.hold(f.path, value)
  }
}
/** A field that is left shows what is kept of it, unless that cannot be read. */
function leave(f: Field) {
  if (!kept.unread[f.path]) kept.hold(f.path, null)
}
function flag(f: Field, on: boolean) {
  const next = put(spec.value, f.path, on || undefined)
  change(on ? alone(next, f.path) : next)
}
function own(f: Field) {
  change({ ...spec.value, typical: spec.value.typical?.filter((t) => t !== f.path && !t.startsWith(`${f.path}.`)) })
}

/** What is wrong at each field: what cannot be read, and what was refused. */
const wrong = computed(() => {
  const out: Record<string, string> = { ...unread.value }
  for (const f of fields.value) if (kept.unread[f.path] && !out[f.path]) out[f.path] = 'this cannot be read, so it is not kept'
  for (const p of kept.problems) {
    const at = p.field.replace(/^(body\.)?spec\./, '')
    const field = fields.value.map((x) => x.path).filter((x) => at === x || at.startsWith(`${x}.`) || at.startsWith(`${x}[`)).sort((a, b) => b.length - a.length)[0]
    if (p.field === 'name') out.name = p.detail
    else if (field) out[field] ??= p.detail
  }
  return out
})
const trouble = computed(() => {
  const other = kept.problems.filter((p) => !Object.values(wrong.value).includes(p.detail) && !fileTrouble.value.includes(p.detail)).map((p) => p.detail)
  return [removing.value, kept.trouble, ...other].filter(Boolean).join(' ')
})
const shown = (v: unknown) => (v == null ? 'nothing' : typeof v === 'object' ? JSON.stringify(v).slice(0, 60) : String(v))

const most = 4 * 2 ** 20
const dragging = ref(false)
async function drop(files: FileList | null | undefined) {
  dragging.value = false
  const f = files?.[0]
  if (!f) return
  fileTrouble.value = ''
  if (f.size > most) {
    fileTrouble.value = `${f.name} is over 4 MiB, the most that is read. Thin it out to the frequencies you need.`
    return
  }
  const content = await f.text()
  const before = spec.value
  const single = /\.s1p$/i.test(f.name)
  let next = put(before, single ? 'element.swr_touchstone' : 'element.loss', single ? content : { touchstone: content })
  if (!single) next = alone(next, 'element.loss')
  carrier.of(props.item.id, single ? 0 : (bench.asked?.frequency_hz ?? 0))
  change(next)
  await kept.flush()
  const refused = kept.problems.find((p) => p.field.includes('touchstone'))
  if (refused) {
    // The refused file is named; what was there before is still there.
    fileTrouble.value = `${f.name}: ${refused.detail}`
    carrier.of(props.item.id, 0)
    change(before)
  }
}
function unfile(path: 'element.loss' | 'element.swr_touchstone') {
  change(put(spec.value, path, undefined))
}

async function remove() {
  await kept.flush()
  try {
    await ask(api.DELETE('/api/v1/kit/{id}', { params: { path: { id: props.item.id }, query: { version: bench.byId.get(props.item.id)?.version ?? props.item.version } } }))
    bench.dropKit(props.item.id)
    forgetKept('kit', props.item.id)
    emit('removed')
  } catch (e) {
    removing.value = wordsOf(e)
  }
}
const base = computed(() => spec.value.meter?.baseline)
function forget() {
  change(put(spec.value, 'meter.baseline', undefined))
}
function retire() {
  kept.change({ ...kept.now, retired: !kept.now.retired })
  void kept.flush()
}
</script>

<template>
  <div class="editor" :class="{ dragging }" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="drop($event.dataTransfer?.files)">
    <section class="subject">
      <h4>called</h4>
      <div class="fields">
        <label class="wide"><ElInput :model-value="kept.now.name" name="name" aria-label="name" @update:model-value="(v: string) => kept.change({ ...kept.now, name: v })" /><em v-if="wrong.name" class="danger">{{ wrong.name }}</em></label>
      </div>
    </section>
    <section v-for="g in groups" :key="g.title" class="subject">
      <h4>{{ g.title }}</h4>
      <div class="fields">
        <template v-for="f in g.fields" :key="f.path">
          <AnalyzerRanges v-if="f.as === 'ranges'" class="wide" :ranges="spec.element.ranges ?? []" :wrong="wrong[f.path] ?? ''" @change="(r) => change(put(spec, f.path, r))" @unread="(odd) => kept.hold(f.path, odd ? '' : null)" />
          <label v-else-if="f.as === 'flag'" class="flag"><input type="checkbox" :name="f.path" :checked="!!get(spec, f.path)" @change="flag(f, ($event.target as HTMLInputElement).checked)" /> {{ f.label }}</label>
          <div v-else class="field" :class="{ wide: f.as === 'loss' || f.as === 'points' || f.as === 'positions' || f.as === 'text' }">
            <!-- The mark stands beside the label: pressing a name accepts nothing. -->
            <span><label :for="idOf(f)">{{ f.label }}{{ f.unit ? `, ${f.unit}` : '' }}</label><button v-if="typical(f)" type="button" class="typical" :aria-label="`${f.label}: typical for its kind; it is so for this one`" title="typical for its kind; press when it is so for yours" @click="own(f)">typical</button></span>
            <select v-if="f.as === 'cable'" :id="idOf(f)" :name="f.path" :value="text(f)" @change="type(f, ($event.target as HTMLSelectElement).value)">
              <option value="">own data</option>
              <option v-for="c in bench.kinds?.cables" :key="c" :value="c">{{ c.toUpperCase() }}</option>
            </select>
            <select v-else-if="f.as === 'preamp'" :id="idOf(f)" :name="f.path" :value="text(f)" @change="type(f, ($event.target as HTMLSelectElement).value)">
              <option value="">not said</option>
              <option value="none">has none</option>
              <option value="fitted">fitted, and off</option>
            </select>
            <template v-else-if="f.as === 'loss' && file != null">
              <span class="file">from a file <button type="button" class="link" @click="unfile('element.loss')">take it off</button></span>
            </template>
            <ElInput v-else :id="idOf(f)" :model-value="text(f)" :name="f.path" :type="f.as === 'loss' || f.as === 'points' || f.as === 'positions' ? 'textarea' : 'text'" :placeholder="f.as === 'date' ? '2026-03-02' : stands(f)" :autosize="{ maxRows: 7 }" @update:model-value="(v: string) => type(f, v)" @blur="leave(f)" />
            <em v-if="wrong[f.path]" class="danger" role="alert">{{ wrong[f.path] }}</em>
            <small v-else-if="f.hint" class="soft">{{ f.hint }}</small>
          </div>
        </template>
      </div>
    </section>
    <KitSocket v-if="known.drives(item.kind).length" :item="item" />
    <p v-if="oneport != null" class="file">SWR from an .s1p file <button type="button" class="link" @click="unfile('element.swr_touchstone')">take it off</button></p>
    <p v-if="base" class="file">Takes out {{ base.offset_db.toFixed(2) }} dB, its baseline of {{ date(base.on ?? '') }} against {{ base.against }}. <button type="button" class="link" @click="forget">Take it out no more</button></p>
    <p v-if="fileTrouble" class="danger" role="alert">{{ fileTrouble }}</p>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <p v-for="c in kept.clashes" :key="c.field" class="danger" role="alert">Another window changed {{ c.field.replace('spec.', '').replaceAll('_', ' ') }} too: here {{ shown(c.mine) }}, there {{ shown(c.theirs) }}. <ElButton size="small" @click="kept.settle(c.field, 'mine')">Mine</ElButton> <ElButton size="small" @click="kept.settle(c.field, 'theirs')">The other</ElButton></p>
    <footer>
      <span class="soft state" :class="{ danger: !['kept', 'keeping'].includes(kept.state) }" aria-live="polite">{{ states[kept.state] }}</span>
      <label class="upload">load .s1p or .s2p <input type="file" name="touchstone" accept=".s1p,.s2p,.snp,text/plain" @change="drop(($event.target as HTMLInputElement).files)" /></label>
      <a :href="`/api/v1/bench/export?kit_id=${item.id}`" download>as JSON</a>
      <a v-if="item.on_path && !item.ends" :href="`/api/v1/kit/${item.id}/touchstone?setting=${encodeURIComponent(item.first_setting)}`" download>as .s2p</a>
      <button type="button" class="link" @click="retire">{{ !kept.now.retired ? 'Retire it' : 'Back into service' }}</button>
      <button type="button" class="link" @click="remove">Remove, it was a mistake</button>
    </footer>
  </div>
</template>

<style scoped>
.editor {
  padding: 6px 0 14px;
}
.editor.dragging {
  outline: 2px dashed var(--ink);
  outline-offset: 6px;
}
.subject {
  display: grid;
  grid-template-columns: 110px 1fr;
  border-top: 1px solid var(--hair);
  padding: 6px 0 8px;
}
.subject h4 {
  margin: 0;
  font-size: 15px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 6px 24px;
  align-items: start;
}
.wide {
  grid-column: span 2;
}
label > span:first-child,
.field > span:first-child {
  display: block;
  font-size: 14px;
  color: var(--soft);
}
.flag {
  font-size: 15px;
  padding-top: 26px;
}
em,
small {
  display: block;
  font-style: normal;
  font-size: 13px;
  line-height: 1.3;
}
select {
  width: 100%;
  height: 36px;
  font-size: 16px;
}
.typical {
  all: unset;
  margin-left: 8px;
  font-style: italic;
  border-bottom: 1px dotted currentColor;
  cursor: pointer;
}
.typical:focus-visible {
  outline: 2px solid var(--ink);
}
.file {
  font-size: 15px;
}
footer {
  display: flex;
  gap: 22px;
  align-items: baseline;
  margin-top: 12px;
  font-size: 14px;
}
.state {
  min-width: 70px;
}
</style>
