<script setup lang="ts">
import { computed } from 'vue'
import { dbm, megahertz, watts } from '../shared/figures'
import { api, ask, useAsked, type Schemas } from '../shared/server'

const asked = useAsked('rule books', () => [], () => ask(api.GET('/api/v1/rule-books')))
const books = computed(() => asked.answer.value ?? [])
const trouble = asked.trouble

type Condition = Schemas['RulebookCondition']
function when(c: Condition): string {
  const parts: string[] = []
  if (c.carrier_from_hz != null && c.carrier_to_hz != null) parts.push(`carrier ${megahertz(c.carrier_from_hz)} to ${megahertz(c.carrier_to_hz)}`)
  else if (c.carrier_to_hz != null) parts.push(`carrier up to ${megahertz(Math.round(c.carrier_to_hz))}`)
  else if (c.carrier_from_hz != null) parts.push(`carrier from ${megahertz(c.carrier_from_hz)}`)
  if (c.mean_over_w != null) parts.push(`over ${watts(c.mean_over_w)}`)
  if (c.mean_to_w != null) parts.push(`up to ${watts(c.mean_to_w)}`)
  if (c.mean_under_w != null) parts.push(`under ${watts(c.mean_under_w)}`)
  if (c.installed_before) parts.push(`installed before ${c.installed_before}`)
  if (c.built_before) parts.push(`built before ${c.built_before}`)
  if (c.marketed_before) parts.push(`marketed before ${c.marketed_before}`)
  return parts.join(', ') || 'any carrier'
}
function term(t: Schemas['RulebookTerm']): string {
  if (t.relative_db != null) return `at least ${t.relative_db} dB below the carrier`
  if (t.formula_db != null) return `at least ${t.formula_db} + 10 log10 P dB below the carrier`
  return `at most ${dbm(t.absolute_dbm)}`
}
</script>

<template>
  <div class="page">
    <h1>Rule books</h1>
    <p class="soft">Limits are data. Each comes with its source, and with what became of it: recalled, or checked against the text.</p>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <article v-for="b in books" :key="b.id" class="sheet">
      <h2>{{ b.title }} <span class="mono soft id">{{ b.id }}</span></h2>
      <p>{{ b.source }}</p>
      <p v-if="b.kind === 'house'" class="note">House practice, not law. A ruling by it says so.</p>
      <p v-else-if="b.recalled && !b.checked" class="note">Recalled from memory; nobody has recorded checking it against the text. Every edition by it says so.</p>
      <table>
        <thead><tr><th>When</th><th>Limit</th><th>By</th></tr></thead>
        <tbody>
          <tr v-for="(c, i) in b.clauses" :key="i">
            <td>{{ when(c.when) }}</td>
            <td>
              <span v-if="c.exempt">exempt</span>
              <template v-for="(s, k) in c.segments ?? []" :key="k">
                {{ s.terms.map(term).join(s.combine === 'lenient' ? ' or ' : ' and ') }}<template v-if="s.floor_dbm != null">, but need not be under {{ dbm(s.floor_dbm) }}</template>
              </template>
            </td>
            <td class="soft">{{ c.citation }}</td>
          </tr>
          <tr v-if="b.otherwise"><td>otherwise</td><td>{{ b.otherwise }}</td><td class="soft">{{ b.otherwise_citation }}</td></tr>
        </tbody>
      </table>
      <p class="soft">{{ b.note }}</p>
    </article>
  </div>
</template>

<style scoped>
.page {
  max-width: 1080px;
  padding: 28px 36px 60px;
}
article {
  margin-top: 18px;
}
.id {
  font-size: 14px;
}
.note {
  border-left: 3px solid var(--amber);
  padding: 2px 12px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  vertical-align: top;
  padding: 7px 18px 7px 0;
  border-bottom: 1px solid var(--hair);
}
th {
  font-weight: 500;
  color: var(--soft);
}
</style>
