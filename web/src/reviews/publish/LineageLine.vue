<script setup lang="ts">
// The editions of a review and of its re-tests in time: a line for each unit, an edition a knot on it. A correction is
// an open knot, an addendum thickens the line.
import { computed } from 'vue'
import { day } from '../../shared/figures'
import { api, ask, useAsked } from '../../shared/server'
import { useReview } from '../review'

const book = useReview()
const asked = useAsked('lineage', () => [book.id], (id: string) => ask(api.GET('/api/v1/reviews/{id}/lineage', { params: { path: { id } } })))
const lines = computed(() => (asked.answer.value ?? []).filter((l) => l.editions.length > 0 || l.review_id === book.id))
const any = computed(() => lines.value.some((l) => l.editions.length > 0))
</script>

<template>
  <section v-if="any" class="lineage" data-lineage>
    <h3>Lineage</h3>
    <div v-for="l in lines" :key="l.review_id">
      <p class="soft"><RouterLink v-if="l.review_id !== book.id" :to="`/reviews/${l.review_id}/publish`">{{ l.title }}</RouterLink><template v-else>{{ l.title }}</template></p>
      <p v-if="!l.editions.length" class="soft">no edition yet</p>
      <ol>
        <li v-for="e in l.editions" :key="e.id" :class="e.kind" :title="e.changed"><a :href="`/editions/${e.id}`" target="_blank">Edition {{ e.number }}</a><br />{{ e.kind && e.kind !== 'first' ? `${e.kind}, ` : '' }}{{ day(e.frozen_at) }}<span v-if="e.changed" class="soft changed">{{ e.changed }}</span></li>
      </ol>
    </div>
  </section>
</template>

<style scoped>
.lineage {
  font-size: 14px;
  border-top: 1px solid var(--hair);
  margin-top: 14px;
  padding-top: 10px;
}
p {
  margin: 4px 0;
}
ol {
  list-style: none;
  padding: 0;
  margin: 4px 0 10px;
}
li {
  position: relative;
  padding: 0 0 10px 24px;
}
li::before {
  content: '';
  position: absolute;
  left: 6px;
  top: 8px;
  bottom: -8px;
  border-left: 2px solid var(--ink);
}
li:last-child::before {
  display: none;
}
li::after {
  content: '';
  position: absolute;
  left: 1px;
  top: 5px;
  width: 12px;
  height: 12px;
  border-radius: 50%;
  background: var(--ink);
}
li.correction::after {
  background: var(--sheet);
  border: 3px solid var(--ink);
  box-sizing: border-box;
}
li.addendum::before {
  border-left-width: 5px;
  left: 4.5px;
}
.changed {
  display: block;
}
</style>
