<script setup lang="ts">
// A book as sentences to type in: when a clause fits, what it asks where, and what else the
// book says. Each change is a new whole, which whoever asked keeps.
import { computed } from 'vue'
import type { FieldProblem } from '../shared/server'
import FieldsLine from './FieldsLine.vue'
import { bandwidth, carriers, clause, exclusion, head, partOf, partsOf, power, search, segment, stretch, term, when, without, type Field, type Part } from './fields'

const props = defineProps<{ book: Part; wrong: FieldProblem[] }>()
const emit = defineEmits<{ change: [book: Part] }>()
const clauses = computed(() => partsOf(props.book, 'clauses') ?? [])
/** The book with another list of parts under a name; without it where there are none. */
const withParts = (of: Part, key: string, all: Part[], keep = false): Part => (all.length || keep ? { ...of, [key]: all } : without(of, key))
const at = (all: Part[], i: number, p: Part | null) => (p ? all.with(i, p) : all.toSpliced(i, 1))
const withPart = (of: Part, key: string, part: Part): Part => (Object.keys(part).length || key === 'when' ? { ...of, [key]: part } : without(of, key))
const setClause = (i: number, c: Part | null) => emit('change', withParts(props.book, 'clauses', at(clauses.value, i, c), true))
const segmentsOf = (c: Part) => partsOf(c, 'segments') ?? []
const setSegment = (i: number, k: number, s: Part | null) => setClause(i, withParts(clauses.value[i]!, 'segments', at(segmentsOf(clauses.value[i]!), k, s)))
const termsOf = (s: Part) => partsOf(s, 'terms') ?? []
const setTerm = (i: number, k: number, n: number, t: Part | null) => {
  const s = segmentsOf(clauses.value[i]!)[k]!
  setSegment(i, k, withParts(s, 'terms', at(termsOf(s), n, t), true))
}
// A term has one form, and may say of which power.
const forms = term.slice(0, 3)
const fieldsOf = (t: Part) => (forms.some((f) => t[f.key] !== undefined) ? term.filter((f) => t[f.key] !== undefined || f.key === 'power') : forms)
const newTerm = (): Part => ({ relative_db: 40 })
const newClause = (): Part => ({ when: {}, citation: '', segments: [{ terms: [newTerm()] }] })
function sooner(i: number) {
  const all = [...clauses.value]
  ;[all[i - 1], all[i]] = [all[i]!, all[i - 1]!]
  emit('change', withParts(props.book, 'clauses', all, true))
}
const wrongAt = (field: string) => props.wrong.filter((f) => f.field === field || f.field.startsWith(`${field}.`) || f.field.startsWith(`${field}[`))

// The lists beside the clauses, each part with when it holds and what it says.
interface Beside { key: string; title: string; says: Field[]; when: boolean; begin: Part; add: string }
const beside: Beside[] = [
  { key: 'carriers', title: 'Carriers its service has', says: carriers, when: false, begin: { from_hz: '', to_hz: '' }, add: 'add a stretch' },
  { key: 'authorised_bandwidths', title: 'Authorised bandwidth', says: bandwidth, when: true, begin: { when: {}, bandwidth_hz: '' }, add: 'add a bandwidth' },
  { key: 'power_limits', title: 'Power', says: power, when: true, begin: { when: {}, max_w: '', power: 'mean', as: 'transmitter', citation: '' }, add: 'add a power limit' },
  { key: 'search', title: 'A full examination covers', says: search, when: true, begin: { from_multiple: 1, to_multiple: 10 }, add: 'add what to cover' },
]
const besideOf = (key: string) => partsOf(props.book, key) ?? []
const setBeside = (key: string, i: number, p: Part | null) => emit('change', withParts(props.book, key, at(besideOf(key), i, p)))
</script>

<template>
  <div class="sentences">
    <FieldsLine :fields="head" :of="book" name="book" more="say more of it" @change="emit('change', $event)" />
    <h3>Clauses <span class="soft small">the first that fits a carrier counts</span></h3>
    <section v-for="(c, i) in clauses" :key="i" class="clause" :data-clause="i">
      <p class="acts"><button v-if="i" type="button" class="link" @click="sooner(i)">before the one above</button><button type="button" class="link" :name="`take-clause-${i}`" @click="setClause(i, null)">take it away</button></p>
      <p class="row"><b>When</b><span v-if="!Object.keys(partOf(c, 'when')).length" class="soft">any carrier</span><FieldsLine :fields="when" :of="partOf(c, 'when')" :name="`clause-${i}`" more="only when" @change="setClause(i, withPart(c, 'when', $event))" /></p>
      <p class="row"><b>Round the carrier</b><span v-if="!Object.keys(partOf(c, 'exclusion')).length" class="soft">nothing is left out</span><FieldsLine :fields="exclusion" :of="partOf(c, 'exclusion')" :name="`clause-${i}-round`" more="leave out" @change="setClause(i, withPart(c, 'exclusion', $event))" /></p>
      <div v-for="(s, k) in segmentsOf(c)" :key="k" class="stretch">
        <p class="row"><b>Where</b><span v-if="!stretch.some((f) => s[f.key] !== undefined)" class="soft">everywhere</span><FieldsLine :fields="stretch" :of="s" :name="`stretch-${i}-${k}`" more="only where" @change="setSegment(i, k, $event)" /><button type="button" class="link" :name="`take-stretch-${i}-${k}`" @click="setSegment(i, k, null)">take it away</button></p>
        <p v-for="(t, n) in termsOf(s)" :key="n" class="row"><b>{{ n ? (s.combine === 'lenient' ? 'or' : 'and') : 'Limit' }}</b><FieldsLine :fields="fieldsOf(t)" :of="t" :name="`term-${i}-${k}-${n}`" :more="fieldsOf(t).length === 2 ? 'of which power' : 'a limit'" @change="setTerm(i, k, n, $event)" /><button v-if="termsOf(s).length > 1" type="button" class="link" @click="setTerm(i, k, n, null)">take it away</button></p>
        <p class="row"><button type="button" class="link" :name="`add-term-${i}-${k}`" @click="setSegment(i, k, { ...s, terms: [...termsOf(s), newTerm()] })">another term</button><FieldsLine :fields="segment" :of="s" :name="`stretch-${i}-${k}`" more="say more" @change="setSegment(i, k, $event)" /></p>
      </div>
      <p class="row"><button type="button" class="link" :name="`add-stretch-${i}`" @click="setClause(i, { ...c, segments: [...segmentsOf(c), { terms: [newTerm()] }] })">another stretch</button><FieldsLine :fields="clause" :of="c" :name="`clause-${i}`" more="say more" @change="setClause(i, $event)" /></p>
      <p v-for="f in wrongAt(`clauses[${i}]`)" :key="f.field" class="danger" role="alert">{{ f.detail }} <span class="soft mono">{{ f.field }}</span></p>
    </section>
    <p><button type="button" class="link" name="add-clause" @click="emit('change', { ...book, clauses: [...clauses, newClause()] })">add a clause</button></p>
    <template v-for="b in beside" :key="b.key">
      <h3>{{ b.title }}</h3>
      <p v-for="(p, i) in besideOf(b.key)" :key="i" class="row">
        <span v-if="b.when && !Object.keys(partOf(p, 'when')).length" class="soft">any carrier</span>
        <FieldsLine v-if="b.when" :fields="when" :of="partOf(p, 'when')" :name="`${b.key}-${i}-when`" more="only when" @change="setBeside(b.key, i, withPart(p, 'when', $event))" />
        <FieldsLine :fields="b.says" :of="p" :name="`${b.key}-${i}`" :more="b.key === 'search' ? 'say more' : ''" @change="setBeside(b.key, i, $event)" />
        <button type="button" class="link" @click="setBeside(b.key, i, null)">take it away</button>
        <span v-for="f in wrongAt(`${b.key}[${i}]`)" :key="f.field" class="danger" role="alert">{{ f.detail }}</span>
      </p>
      <p><button type="button" class="link" :name="`add-${b.key}`" @click="emit('change', { ...book, [b.key]: [...besideOf(b.key), b.begin] })">{{ b.add }}</button></p>
    </template>
  </div>
</template>

<style scoped>
.clause {
  border-left: 3px solid var(--hair);
  padding: 2px 0 2px 14px;
  margin: 10px 0;
}
.stretch {
  border-left: 1px solid var(--soft);
  padding-left: 12px;
  margin: 6px 0 6px 4px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  margin: 3px 0;
}
.acts {
  float: right;
  margin: 0;
}
.acts button {
  margin-left: 12px;
}
h3 {
  margin: 16px 0 4px;
}
.small {
  font-size: 14px;
  font-weight: 400;
}
</style>
