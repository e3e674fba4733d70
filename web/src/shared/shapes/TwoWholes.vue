<script setup lang="ts">
// What a radio comes to: one shape for power, one for emissions, each with its count.
import type { Schemas } from '../api/client'
import RulingShape from './RulingShape.vue'

withDefaults(defineProps<{ power: Schemas['DecisionWhole']; emissions: Schemas['DecisionWhole']; size?: number }>(), { size: 40 })
const spoken: Record<string, string> = {
  pass: 'passes', fail: 'fails', inconclusive: 'too close to call', 'not-covered': 'not covered', 'no-limit': 'no limit set', void: 'void',
  'passes-so-far': 'passes so far', 'not-examined': 'not examined', 'not-governed': 'not governed by the book', 'no-claim': 'nothing claimed',
}
</script>

<template>
  <div class="wholes">
    <div v-for="[name, w] in [['Power', power], ['Emissions', emissions]] as const" :key="name" class="whole" :data-whole="name.toLowerCase()" :data-verdict="w.verdict">
      <RulingShape :verdict="w.verdict" :size="size" />
      <span><b>{{ name }}: {{ spoken[w.verdict] ?? w.verdict }}</b><br /><span class="soft">{{ w.of === 0 ? 'no band and level yet' : w.words }}</span></span>
    </div>
  </div>
</template>

<style scoped>
.wholes {
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
