<script setup lang="ts">
// Every clause of a book, and its power limits.
import { dbm, megahertz, watts } from '../shared/figures'
import type { Schemas } from '../shared/server'

defineProps<{ book: Schemas['BookView'] }>()

type Condition = Schemas['RulebookCondition']
function when(c: Condition): string {
  const parts: string[] = []
  if (c.carrier_from_hz != null && c.carrier_to_hz != null) parts.push(`carrier ${megahertz(c.carrier_from_hz)} to ${megahertz(c.carrier_to_hz)}`)
  else if (c.carrier_to_hz != null) parts.push(`carrier up to ${megahertz(Math.round(c.carrier_to_hz))}`)
  else if (c.carrier_from_hz != null) parts.push(`carrier from ${megahertz(c.carrier_from_hz)}`)
  if (c.mean_over_w != null) parts.push(`over ${watts(c.mean_over_w)}`)
  if (c.mean_to_w != null) parts.push(`up to ${watts(c.mean_to_w)}`)
  if (c.mean_under_w != null) parts.push(`under ${watts(c.mean_under_w)}`)
  if (c.modes?.length) parts.push(c.modes.join(' or '))
  if (c.services?.length) parts.push(c.services.join(' or '))
  if (c.classes?.length) parts.push(c.classes.join(' or '))
  if (c.state) parts.push(c.state)
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
/** Where a segment lies. */
function where(s: Schemas['RulebookSegment']): string {
  const parts: string[] = []
  if (s.from_hz != null || s.to_hz != null) parts.push(s.to_hz == null ? `from ${megahertz(s.from_hz!)}` : `${s.from_hz == null ? 'up to' : `${megahertz(s.from_hz)} to`} ${megahertz(s.to_hz)}`)
  if (s.from_multiple != null || s.to_multiple != null) parts.push(s.to_multiple == null ? `from ${s.from_multiple} times the carrier` : `up to ${s.to_multiple} times the carrier`)
  if (s.from_offset_hz != null) parts.push(`beyond ${megahertz(s.from_offset_hz)} from the carrier`)
  if (s.to_offset_hz != null) parts.push(`within ${megahertz(s.to_offset_hz)} of the carrier`)
  if (s.harmonics_only) parts.push('at harmonics')
  if (s.reference_bandwidth_hz != null) parts.push(`in ${megahertz(s.reference_bandwidth_hz)}`)
  return parts.join(', ')
}
</script>

<template>
  <table>
    <thead><tr><th>When</th><th>Limit</th><th>By</th></tr></thead>
    <tbody>
      <tr v-for="(c, i) in book.clauses" :key="i">
        <td>{{ when(c.when) }}</td>
        <td>
          <span v-if="c.exempt">exempt</span>
          <div v-for="(s, k) in c.segments ?? []" :key="k">
            <span v-if="where(s)" class="soft">{{ where(s) }}: </span>
            {{ s.terms.map(term).join(s.combine === 'lenient' ? ' or ' : ' and ') }}<template v-if="s.floor_dbm != null">, but need not be under {{ dbm(s.floor_dbm) }}</template>
          </div>
        </td>
        <td class="soft">{{ c.citation }}</td>
      </tr>
      <tr v-if="book.otherwise"><td>otherwise</td><td>{{ book.otherwise }}</td><td class="soft">{{ book.otherwise_citation }}</td></tr>
    </tbody>
  </table>
  <table v-if="book.power_limits?.length">
    <thead><tr><th>When</th><th>Power at most</th><th>By</th></tr></thead>
    <tbody>
      <tr v-for="(p, i) in book.power_limits" :key="i"><td>{{ when(p.when) }}</td><td>{{ watts(p.max_w) }} {{ p.power === 'pep' ? 'PEP' : p.power }}{{ p.as !== 'transmitter' ? `, ${p.as.toUpperCase()}: conducted watts alone do not tell` : '' }}</td><td class="soft">{{ p.citation }}</td></tr>
    </tbody>
  </table>
</template>

<style scoped>
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
