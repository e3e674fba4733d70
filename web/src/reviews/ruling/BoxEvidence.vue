<script setup lang="ts">
import { computed } from 'vue'
import type { BoardCell } from '../../shared/api/client'
import { claimed, db, dbc, dbm, fine, megahertz, ordinal, productName, watts, words } from '../../shared/figures'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ box: BoardCell }>()
// The quantity that is held against the claim: the peak where that is claimed.
const held = computed(() => (props.box.cell.pep ? props.box.reading?.peak : props.box.reading?.result) ?? null)
</script>

<template>
  <aside class="evidence">
    <h2>{{ box.name }}</h2>
    <section>
      <h3>power <RulingShape :verdict="box.power" :size="18" word /></h3>
      <template v-if="box.reading">
        <p>
          <b>{{ watts(box.reading.measured_w) }}{{ box.cell.pep ? ' PEP' : '' }}</b> at the connector, {{ megahertz(box.reading.frequency_hz) }}<template v-if="box.reading.low_w != null">, {{ watts(box.reading.low_w) }} to {{ watts(box.reading.high_w) }} (k = 2)</template>; {{ box.cell.claimed_w > 0 ? 'claimed ' : '' }}{{ claimed(box.cell) }}
        </p>
        <p class="soft">typed <span class="mono">{{ box.reading.text }}</span>; {{ box.reading.through.name }}<template v-if="box.readings > 1">; of {{ box.readings }} readings the furthest from the claim</template><template v-if="box.frequencies_hz.length > 1">, read at {{ box.frequencies_hz.map(megahertz).join(', ') }}</template></p>
        <p>{{ words(box.power_why) }}</p>
        <p v-for="d in box.reading.doubts" :key="d.code" class="doubt">{{ words(d.detail) }}<template v-if="d.advice">: {{ d.advice }}</template></p>
        <table v-if="held?.budget.length">
          <tbody>
            <tr v-for="l in held.budget" :key="l.source">
              <td>{{ l.source }}</td><td class="n">{{ (l.relative * 100).toFixed(2) }} %</td><td class="soft">{{ l.distribution }}</td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else class="soft">{{ box.power_why }}</p>
    </section>
    <section>
      <h3>emissions <RulingShape :verdict="box.verdict" :size="18" word /></h3>
      <template v-if="box.emissions.ruling">
        <p v-if="box.emissions.ruling.worst">
          <b>{{ productName(box.emissions.ruling.worst) }}</b> {{ box.emissions.ruling.worst.level_dbm == null ? dbc(box.emissions.ruling.worst.dbc) : dbm(box.emissions.ruling.worst.level_dbm) }} at {{ megahertz(box.emissions.frequency_hz) }} against {{ box.emissions.ruling.worst.limit_dbm == null ? dbc(box.emissions.ruling.worst.limit_dbc) : dbm(box.emissions.ruling.worst.limit_dbm) }}: margin <b>{{ db(box.emissions.ruling.worst.margin_db) }}</b>, by the {{ box.emissions.ruling.worst.decided_by }} term
        </p>
        <p class="soft">{{ box.emissions.ruling.worst?.citation ?? box.emissions.ruling.citation }}</p>
        <p>
          Examined {{ box.emissions.ruling.coverage.from_hz == null ? 'nothing' : `${megahertz(box.emissions.ruling.coverage.from_hz)} to ${megahertz(box.emissions.ruling.coverage.to_hz ?? 0)}` }}<template v-if="box.emissions.ruling.coverage.highest_harmonic != null">, to the {{ ordinal(box.emissions.ruling.coverage.highest_harmonic) }} harmonic</template>.
        </p>
        <p v-for="(f, i) in box.emissions.ruling.findings" :key="i" class="doubt">{{ words(f.detail) }}<template v-if="f.advice">: {{ f.advice }}</template></p>
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
      <p v-else class="soft">{{ box.why }}</p>
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
  vertical-align: top;
}
.n {
  text-align: right;
  white-space: nowrap;
}
</style>
