<script setup lang="ts">
// A ruling down to its numbers: how the level was come by, each term held against it, what
// may hide behind the figure, and where the line could come from.
import { computed } from 'vue'
import type { Product, Schemas } from '../../shared/server'
import { db, dbm, fine, megahertz, words } from '../../shared/figures'
import RulingShape from '../../shared/shapes/RulingShape.vue'

const props = defineProps<{ product: Product; budget: Schemas['JudgeLevelBudget'] | null; rule: string; ruling: Schemas['JudgeRuling']; narrow?: boolean }>()
const o = computed(() => props.product.opened!)
const term: Record<string, string> = { relative: 'below the carrier', formula: 'A + 10 log10 P', absolute: 'absolute', floor: 'floor' }
const lines = computed(() => [...(props.budget?.parts ?? [])].sort((a, b) => b.db - a.db))
const chance = (v: number) => (v < 0.005 ? 'under 0.01' : v < 1 ? v.toFixed(2) : v.toFixed(1))
</script>

<template>
  <div class="opened" :class="{ narrow }" data-opened>
    <div>
      <h4>As it was shown</h4>
      <p v-for="s in o.sights" :key="s.sweep" class="tight">
        {{ s.sweep }}: {{ dbm(s.shown_dbm) }} shown<template v-if="s.loss_db != null"> + {{ fine(s.loss_db) }} of path<template v-if="s.applied_offset_db"> − {{ fine(s.applied_offset_db) }} that the screen added</template></template><template v-if="s.level_dbm != null"> = <b>{{ dbm(s.level_dbm) }}</b></template><template v-else>; only its distance from the carrier is known</template><template v-if="s.suspect">, perhaps the analyzer’s own</template>
      </p>
      <p v-if="o.noise_dbm != null" class="tight soft">noise beside it {{ dbm(o.noise_dbm) }} as shown: it may hide {{ fine(o.hidden_db) }} more</p>
      <p v-if="o.more_db > 0" class="tight soft">and it may be {{ fine(o.more_db) }} higher than shown<template v-if="o.most_dbm != null">, up to {{ dbm(o.most_dbm) }}</template>: the carrier reads low, the bandwidth is narrow, or its crest lies between two points</p>
      <p v-if="o.less_db > 0" class="tight soft">and up to {{ fine(o.less_db) }} lower: the carrier reads high</p>
      <p v-for="s in ruling.standpoints" :key="`c ${s.sweep}`" class="tight soft" data-carrier>
        the carrier: <template v-if="s.carrier_dbm != null">{{ dbm(s.carrier_dbm) }} by {{ s.sweep }}<template v-if="ruling.carrier_from === 'power-meter' && s.off_db != null">, {{ db(s.off_db) }} from the meter’s {{ dbm(ruling.carrier_dbm) }}</template></template><template v-else>not in {{ s.sweep }}</template>
      </p>
      <p v-if="product.self_made_dbm != null" class="tight soft">the analyzer itself is expected to show {{ dbm(product.self_made_dbm) }} here</p>
      <p v-if="product.lands" class="tight soft" data-lands>It falls into: {{ product.lands }} (for information, from memory)</p>
      <template v-if="product.kind === 'spur'">
        <h4>What it could come from</h4>
        <p v-for="g in product.origins" :key="g.kind" class="tight" :data-origin="g.kind">
          {{ words(g.detail) }}<span class="soft">; {{ megahertz(g.off_hz) }} beside it. Chance alone would fit {{ chance(g.by_chance) }} of the spurs seen{{ g.kind === 'comb' ? '' : `, with ${g.places} such places tried` }}</span>
        </p>
        <p v-if="!product.origins.length" class="tight soft">Nothing that is tried fits it: other bands of the radio, its own clocks where they are told, usual ones, and what they mix to, images, a twin beyond a multiple, a comb.</p>
        <p class="tight soft">A fit proves nothing: what goes away with a thing comes from it. Look at it in other states.</p>
      </template>
    </div>
    <div>
      <h4>Held against each term{{ o.lenient ? ': one that passes is enough' : '' }}</h4>
      <table>
        <thead><tr><th>term</th><th>limit</th><th>margin</th><th>guard</th><th /></tr></thead>
        <tbody>
          <tr v-for="t in o.terms" :key="t.by" :data-term="t.by" :class="{ decides: t.by === product.decided_by }">
            <td>{{ term[t.by] }}</td><td class="n">{{ dbm(t.limit_dbm) }}</td>
            <td class="n">{{ t.margin_db == null ? 'not known' : db(t.margin_db) }}</td>
            <td class="n">{{ rule === 'simple' && product.seen ? 'none' : fine(t.pass_guard_db) }}</td><td><RulingShape :verdict="t.verdict" :size="18" /></td>
          </tr>
        </tbody>
      </table>
      <p class="tight soft">{{ product.citation }}</p>
      <template v-if="budget">
        <h4>The ±{{ fine(budget.expanded_uncertainty_db) }} of a level (k = 2)</h4>
        <table>
          <tbody><tr v-for="l in lines" :key="l.source"><td>{{ l.source }}</td><td class="n">{{ fine(l.db) }}</td><td class="soft">{{ l.distribution }}</td></tr></tbody>
        </table>
      </template>
    </div>
  </div>
</template>

<style scoped>
.opened {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1fr 1.15fr;
  gap: 26px;
  padding: 4px 0 14px 26px;
  font-size: 14px;
}
.narrow {
  grid-template-columns: 1fr;
  gap: 0;
  padding: 0;
}
h4 {
  font-size: 14px;
  font-weight: 600;
  margin: 6px 0 3px;
}
.tight {
  margin: 2px 0;
}
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  color: var(--soft);
  text-align: left;
}
td,
th {
  padding: 1px 12px 1px 0;
  vertical-align: top;
}
td:first-child {
  min-width: 96px;
}
.decides td {
  font-weight: 600;
}
.n {
  text-align: right;
  white-space: nowrap;
}
</style>
