<script setup lang="ts">
import type { BoardCell } from '../../shared/api/client'
import { claimed, db, dbm, fine, megahertz, ordinal, productName, watts, words } from '../../shared/figures'
import RulingShape from '../../shared/shapes/RulingShape.vue'

defineProps<{ box: BoardCell }>()
</script>

<template>
  <aside class="evidence">
    <h2>{{ box.cell.band.name }} {{ box.cell.level }}</h2>
    <section>
      <h3><RulingShape :verdict="box.power" :size="18" word /> power</h3>
      <template v-if="box.reading">
        <p>
          <b>{{ watts(box.reading.result?.at_connector_w) }}</b> at the connector<template v-if="box.reading.result?.low_w != null">, {{ watts(box.reading.result.low_w) }} to {{ watts(box.reading.result.high_w) }} (k = 2)</template>; {{ box.cell.claimed_w > 0 ? 'claimed ' : '' }}{{ claimed(box.cell) }}
        </p>
        <p class="soft">typed <span class="mono">{{ box.reading.text }}</span>; {{ box.reading.through.name }}; the last that counts of {{ box.readings }}</p>
        <p v-for="d in box.reading.doubts" :key="d.code" class="doubt">{{ d.detail }}</p>
        <table v-if="box.reading.result?.budget.length">
          <tbody>
            <tr v-for="l in box.reading.result.budget" :key="l.source">
              <td>{{ l.source }}</td><td class="n">{{ (l.relative * 100).toFixed(2) }} %</td><td class="soft">{{ l.distribution }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else class="soft">{{ box.power_why }}</p>
    </section>
    <section>
      <h3><RulingShape :verdict="box.verdict" :size="18" word /> emissions</h3>
      <template v-if="box.emissions.ruling">
        <p v-if="box.emissions.ruling.worst">
          <b>{{ productName(box.emissions.ruling.worst) }}</b> {{ dbm(box.emissions.ruling.worst.level_dbm) }} against {{ dbm(box.emissions.ruling.worst.limit_dbm) }}: margin <b>{{ db(box.emissions.ruling.worst.margin_db) }}</b>, by the {{ box.emissions.ruling.worst.decided_by }} term
        </p>
        <p class="soft">{{ box.emissions.ruling.worst?.citation ?? box.emissions.ruling.citation }}</p>
        <p>
          Examined {{ box.emissions.ruling.coverage.from_hz == null ? 'nothing' : `${megahertz(box.emissions.ruling.coverage.from_hz)} to ${megahertz(box.emissions.ruling.coverage.to_hz ?? 0)}` }}<template v-if="box.emissions.ruling.coverage.highest_harmonic != null">, to the {{ ordinal(box.emissions.ruling.coverage.highest_harmonic) }} harmonic</template>.
        </p>
        <p v-for="(f, i) in box.emissions.ruling.findings" :key="i" class="doubt">{{ words(f.detail) }}</p>
        <p v-for="s in box.emissions.sweeps" :key="s.id" class="soft">{{ s.name }}<template v-if="s.standing !== 'in-force'"> ({{ s.standing }})</template>: {{ s.through.name }}</p>
        <table v-if="box.emissions.budget">
          <tbody>
            <tr v-for="l in box.emissions.budget.parts" :key="l.source">
              <td>{{ l.source }}</td><td class="n">{{ fine(l.db) }}</td><td class="soft">{{ l.distribution }}</td>
            </tr>
            <tr><td>expanded, level</td><td class="n">±{{ fine(box.emissions.budget.expanded_uncertainty_db) }}</td><td class="soft">k = 2</td></tr>
          </tbody>
        </table>
      </template>
      <p v-else class="soft">{{ box.emissions.why }}</p>
    </section>
  </aside>
</template>

<style scoped>
.evidence {
  border-left: 1px solid var(--hair);
  padding-left: 22px;
  font-size: 15px;
}
section {
  border-top: 1px solid var(--hair);
  padding: 10px 0;
  margin-top: 8px;
}
h3 {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-bottom: 4px;
}
.doubt {
  border-left: 3px solid var(--amber);
  padding: 1px 10px;
}
table {
  border-collapse: collapse;
  font-size: 14px;
  margin-top: 6px;
}
td {
  padding: 2px 14px 2px 0;
}
.n {
  text-align: right;
}
</style>
