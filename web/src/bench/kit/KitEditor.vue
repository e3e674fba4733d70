<script setup lang="ts">
// An item's fields, typed in place. What is refused stays as it was typed, with
// the reason beside it; everything else is kept as it comes.
import { useDebounceFn } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { api, ask, type Refusal } from '../../shared/api/client'
import { ending, useBench, type Kit } from '../bench'
import AnalyzerRanges from './AnalyzerRanges.vue'
import { fieldsOf, get, put, read, show, type Field, type Spec } from './fields'

const props = defineProps<{ item: Kit }>()
const emit = defineEmits<{ removed: [] }>()
const bench = useBench()

const name = ref(props.item.name)
const spec = ref<Spec>(JSON.parse(JSON.stringify(props.item.spec)) as Spec)
const typed = reactive<Record<string, string>>({}) // fields whose text is not what is kept
const wrong = reactive<Record<string, string>>({})
const unread = new Set<string>() // fields whose text cannot be read: it stays until it can
const trouble = ref('')
const state = ref<'kept' | 'keeping…' | 'not kept'>('kept')
let version = props.item.version
let busy = false
let again = false
let carrier = 0 // sent along where a file was dropped, to see that it covers it

const groups = computed(() => fieldsOf(props.item.kind))
const fields = computed(() => groups.value.flatMap((g) => g.fields))
const text = (f: Field) => typed[f.path] ?? show(spec.value, f)
const typical = (f: Field) => spec.value.typical?.includes(f.path) || spec.value.typical?.some((t) => t.startsWith(`${f.path}.`))
/** What counts for a field that nobody filled in: never as if the thing were perfect. */
function stands(f: Field): string {
  const counted = bench.byId.get(props.item.id)?.counted
  if (!counted?.typical?.includes(f.path)) return ''
  if (f.path === 'meter.repeatability_pct') return spec.value.meter?.needle ? 'a fifth of a division, typical' : '1, typical'
  return `${show(counted, f)}, typical`
}
const file = computed(() => spec.value.element.loss?.touchstone)
const oneport = computed(() => spec.value.element.swr_touchstone)

function type(f: Field, value: string) {
  typed[f.path] = value
  try {
    let next = put(spec.value, f.path, read(value, f))
    if (f.path === 'meter.from_hz' || f.path.startsWith('meter.')) next.meter ??= {}
    // One form of a loss at a time: the newest counts.
    if (value.trim()) {
      const others: Record<string, string[]> = { 'element.cable': ['element.points', 'element.loss'], 'element.points': ['element.cable', 'element.loss'], 'element.loss': ['element.cable', 'element.points', 'element.coupling_db'], 'element.coupling_db': ['element.loss', 'element.coupling_unknown'] }
      for (const o of others[f.path] ?? []) if (get(next, o) !== undefined) next = put(next, o, undefined)
    }
    delete wrong[f.path]
    unread.delete(f.path)
    spec.value = next
    changed()
  } catch (e) {
    wrong[f.path] = (e as Error).message
    cannotRead(f, true)
  }
}
function cannotRead(f: Field, odd: boolean) {
  if (!odd) unread.delete(f.path)
  else {
    unread.add(f.path)
    state.value = 'not kept'
  }
}
function flag(f: Field, on: boolean) {
  let next = put(spec.value, f.path, on || undefined)
  if (f.path === 'element.coupling_unknown' && on) for (const o of ['element.coupling_db', 'element.loss']) next = put(next, o, undefined)
  spec.value = next
  changed()
}
function own(f: Field) {
  spec.value = { ...spec.value, typical: spec.value.typical?.filter((t) => t !== f.path && !t.startsWith(`${f.path}.`)) }
  changed()
}
function changed() {
  state.value = 'keeping…'
  void keep()
}
const keep = useDebounceFn(flush, 350)

async function flush(retired = props.item.retired_at != null) {
  if (busy) {
    again = true
    return
  }
  busy = true
  again = false
  const query = carrier ? { carrier_hz: carrier } : {}
  try {
    const body = { version, name: name.value, spec: spec.value, retired }
    const got = await ask(api.PUT('/api/v1/kit/{id}', { params: { path: { id: props.item.id }, query }, body }))
    version = got.version
    carrier = 0
    clear(wrong)
    if (!again) {
      clear(typed)
      spec.value = JSON.parse(JSON.stringify(got.spec)) as Spec
      state.value = unread.size ? 'not kept' : 'kept'
    }
    trouble.value = ''
    bench.keepKit(got)
  } catch (e) {
    refused(e as Refusal)
  } finally {
    busy = false
  }
  if (again) await flush(retired)
}

/** Clears what is dealt with; what cannot be read yet stays. */
function clear(of: Record<string, string>) {
  for (const key of Object.keys(of)) if (!unread.has(key)) delete of[key]
}

function refused(r: Refusal) {
  state.value = 'not kept'
  clear(wrong)
  trouble.value = r.status === 409 ? 'This was changed in another window. Copy what you typed, then open the place again.' : ''
  for (const f of r.fields) {
    const at = f.field.replace(/^(body\.)?spec\./, '')
    const field = fields.value.map((x) => x.path).filter((p) => at === p || at.startsWith(`${p}.`) || at.startsWith(`${p}[`)).sort((a, b) => b.length - a.length)[0]
    if (f.field === 'name') wrong.name = f.detail
    else if (at.startsWith('element.loss.touchstone')) wrong.file = f.detail
    else if (at.startsWith('element.swr_touchstone')) wrong.oneport = f.detail
    else if (field) wrong[field] ??= f.detail
    else if (f.field !== 'version') trouble.value = f.detail
  }
  if (!r.fields.length && !trouble.value) trouble.value = r.message
}

const most = 4 * 2 ** 20
const dragging = ref(false)
async function drop(files: FileList | null | undefined) {
  dragging.value = false
  const f = files?.[0]
  if (!f) return
  delete wrong.file
  if (f.size > most) {
    wrong.file = `${f.name} is over 4 MiB, the most that is read. Thin it out to the frequencies you need.`
    return
  }
  const content = await f.text()
  const before = spec.value
  const single = /\.s1p$/i.test(f.name)
  let next = put(before, single ? 'element.swr_touchstone' : 'element.loss', single ? content : { touchstone: content })
  if (!single) for (const o of ['element.cable', 'element.points', 'element.coupling_db', 'element.coupling_unknown']) if (get(next, o) !== undefined) next = put(next, o, undefined)
  spec.value = next
  carrier = single ? 0 : (bench.asked?.frequency_hz ?? 0)
  await flush()
  if (wrong.file || wrong.oneport) {
    // The refused file is named; what was there before is still there.
    wrong.file = `${f.name}: ${wrong.file ?? wrong.oneport}`
    spec.value = before
    carrier = 0
  }
}
function unfile(path: 'element.loss' | 'element.swr_touchstone') {
  spec.value = put(spec.value, path, undefined)
  changed()
}

async function remove() {
  try {
    const { response, error } = await api.DELETE('/api/v1/kit/{id}', { params: { path: { id: props.item.id }, query: { version } } })
    if (!response.ok) {
      trouble.value = (error as { detail?: string } | undefined)?.detail ?? 'It could not be removed.'
      return
    }
    bench.dropKit(props.item.id)
    emit('removed')
  } catch {
    trouble.value = 'The server does not answer. Is it running?'
  }
}
const base = computed(() => spec.value.meter?.baseline)
function forget() {
  spec.value = put(spec.value, 'meter.baseline', undefined)
  changed()
}
</script>

<template>
  <div class="editor" :class="{ dragging }" @dragover.prevent="dragging = true" @dragleave="dragging = false" @drop.prevent="drop($event.dataTransfer?.files)">
    <section class="subject">
      <h4>called</h4>
      <div class="fields">
        <label class="wide"><ElInput v-model="name" name="name" aria-label="name" @input="changed" /><em v-if="wrong.name" class="danger">{{ wrong.name }}</em></label>
      </div>
    </section>
    <section v-for="g in groups" :key="g.title" class="subject">
      <h4>{{ g.title }}</h4>
      <div class="fields">
        <template v-for="f in g.fields" :key="f.path">
          <AnalyzerRanges v-if="f.as === 'ranges'" class="wide" :ranges="spec.element.ranges ?? []" :wrong="wrong[f.path] ?? ''" @change="(r) => { spec = put(spec, f.path, r); changed() }" @unread="(odd) => cannotRead(f, odd)" />
          <label v-else-if="f.as === 'flag'" class="flag"><input type="checkbox" :name="f.path" :checked="!!get(spec, f.path)" @change="flag(f, ($event.target as HTMLInputElement).checked)" /> {{ f.label }}</label>
          <label v-else :class="{ wide: f.as === 'loss' || f.as === 'points' || f.as === 'positions' || f.as === 'text' }">
            <span>{{ f.label }}{{ f.unit ? `, ${f.unit}` : '' }}<button v-if="typical(f)" type="button" class="typical" title="typical for its kind; press when it is so for yours" @click="own(f)">typical</button></span>
            <select v-if="f.as === 'cable'" :name="f.path" :value="text(f)" @change="type(f, ($event.target as HTMLSelectElement).value)">
              <option value="">own data</option>
              <option v-for="c in bench.kinds?.cables" :key="c" :value="c">{{ c.toUpperCase() }}</option>
            </select>
            <select v-else-if="f.as === 'preamp'" :name="f.path" :value="text(f)" @change="type(f, ($event.target as HTMLSelectElement).value)">
              <option value="">not said</option>
              <option value="none">has none</option>
              <option value="fitted">fitted, and off</option>
            </select>
            <template v-else-if="f.as === 'loss' && file != null">
              <span class="file">from a file <button type="button" class="link" @click="unfile('element.loss')">take it off</button></span>
            </template>
            <ElInput v-else :model-value="text(f)" :name="f.path" :type="f.as === 'loss' || f.as === 'points' || f.as === 'positions' ? 'textarea' : 'text'" :placeholder="f.as === 'date' ? '2026-03-02' : stands(f)" :autosize="{ maxRows: 7 }" @update:model-value="(v: string) => type(f, v)" />
            <em v-if="wrong[f.path]" class="danger" role="alert">{{ wrong[f.path] }}</em>
            <small v-else-if="f.hint" class="soft">{{ f.hint }}</small>
          </label>
        </template>
      </div>
    </section>
    <p v-if="oneport != null" class="file">SWR from an .s1p file <button type="button" class="link" @click="unfile('element.swr_touchstone')">take it off</button></p>
    <p v-if="base" class="file">Takes out {{ base.offset_db.toFixed(2) }} dB, its baseline of {{ base.on }} against {{ base.against }}. <button type="button" class="link" @click="forget">Take it out no more</button></p>
    <p v-if="wrong.file" class="danger" role="alert">{{ wrong.file }}</p>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <footer>
      <span class="soft state" :class="{ danger: state === 'not kept' }" aria-live="polite">{{ state }}</span>
      <label class="upload">load .s1p or .s2p <input type="file" name="touchstone" accept=".s1p,.s2p,.snp,text/plain" @change="drop(($event.target as HTMLInputElement).files)" /></label>
      <a :href="`/api/v1/bench/export?kit_id=${item.id}`" download>as JSON</a>
      <a v-if="item.on_path && !ending.includes(item.kind)" :href="`/api/v1/kit/${item.id}/touchstone?setting=${encodeURIComponent(item.first_setting)}`" download>as .s2p</a>
      <button type="button" class="link" @click="flush(item.retired_at == null)">{{ item.retired_at == null ? 'Retire it' : 'Back into service' }}</button>
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
label > span:first-child {
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
