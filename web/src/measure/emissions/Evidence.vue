<script setup lang="ts">
import { computed } from 'vue'
import { dbc, dbm, megahertz, ordinal, room, words } from '../../shared/figures'
import type { Box, BoardCell, Emissions } from '../../shared/server'
import { useReview } from '../../reviews/review'
import RulingShape from '../../shared/shapes/RulingShape.vue'
import OpenedProduct from './OpenedProduct.vue'

const props = defineProps<{ box: Box; cell: BoardCell['cell'] }>()
const book = useReview()
const of = computed(() => props.box.of as Emissions)
</script>

<template>
    <section>
      <h3>emissions <RulingShape :verdict="box.verdict" :size="18" word /></h3>
      <template v-if="of.ruling">
        <p v-if="of.ruling.worst">
          <b>{{ of.ruling.worst.name }}</b> {{ of.ruling.worst.seen ? '' : 'not above ' }}{{ of.ruling.worst.level_dbm == null ? dbc(of.ruling.worst.not_above_dbc ?? of.ruling.worst.dbc) : dbm(of.ruling.worst.not_above_dbm ?? of.ruling.worst.level_dbm) }} of a carrier at {{ megahertz(of.frequency_hz) }} against {{ of.ruling.worst.limit_dbm == null ? dbc(of.ruling.worst.limit_dbc) : dbm(of.ruling.worst.limit_dbm) }}: margin <b>{{ room(of.ruling.worst) }}</b>, by the {{ of.ruling.worst.decided_by }} term
        </p>
        <p class="soft">{{ of.ruling.worst?.citation ?? of.ruling.citation }}</p>
        <p>
          Examined {{ of.ruling.coverage.from_hz == null ? 'nothing' : `${megahertz(of.ruling.coverage.from_hz)} to ${megahertz(of.ruling.coverage.to_hz ?? 0)}` }}<template v-if="of.ruling.coverage.highest_harmonic != null">, to the {{ ordinal(of.ruling.coverage.highest_harmonic) }} harmonic</template>.
        </p>
        <p v-for="(f, i) in of.ruling.findings" :key="i" class="doubt">{{ words(f.detail) }}<template v-if="f.advice">: {{ f.advice }}</template></p>
        <p v-for="s in of.sweeps" :key="s.id" class="soft">{{ s.name }}<template v-if="s.standing !== 'in-force'"> ({{ s.standing }})</template>: {{ s.through.name }}</p>
        <OpenedProduct v-if="of.ruling.worst?.opened" narrow :product="of.ruling.worst" :ruling="of.ruling" :budget="of.sweeps.find((s) => s.name === of.ruling?.worst?.sweep)?.budget ?? of.budget" :rule="book.review?.rules.decision_rule ?? 'guarded'" />
      </template>
      <p v-else class="soft">{{ box.why }}</p>
    </section>
</template>

<style scoped>
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
</style>
