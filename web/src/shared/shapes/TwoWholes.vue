<script setup lang="ts">
// What a radio comes to: one shape for power, one for emissions, each with its count.
import type { Schemas } from '../api/client'
import RulingShape from './RulingShape.vue'

withDefaults(defineProps<{ power: Schemas['DecisionWhole']; emissions: Schemas['DecisionWhole']; size?: number }>(), { size: 40 })
const spoken: Record<string, [one: string, many: string]> = {
  pass: ['passes', 'pass'], fail: ['fails', 'fail'], 'passes-so-far': ['passes so far', 'pass so far'], inconclusive: ['is too close to call', 'are too close to call'],
  'not-covered': ['is not covered', 'are not covered'], 'not-examined': ['is not examined', 'are not examined'], void: ['is void', 'are void'],
  'no-limit': ['has no limit', 'have no limit'], 'not-governed': ['is not governed by the book', 'are not governed by the book'], 'no-claim': ['has no claim', 'have no claim'],
}
</script>

<template>
  <div class="wholes">
    <div v-for="[name, w] in [['Power', power], ['Emissions', emissions]] as const" :key="name" class="whole" :data-whole="name.toLowerCase()" :data-verdict="w.verdict">
      <RulingShape :verdict="w.verdict" :size="size" />
      <span><b>{{ name }} {{ spoken[w.verdict]?.[name === 'Power' ? 0 : 1] ?? w.verdict }}</b><br /><span class="soft">{{ w.of === 0 ? 'no band and level yet' : w.words }}</span></span>
    </div>
  </div>
</template>

<style scoped>
.wholes {
  margin: 6px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px 44px;
}
.whole {
  display: flex;
  gap: 14px;
  align-items: center;
  line-height: 1.3;
}
b {
  font-size: 17px;
}
.soft {
  font-size: 14px;
}
</style>
