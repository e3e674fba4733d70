<script setup lang="ts">
// What a radio comes to: a shape for each kind of measurement, with its count; the further tests smaller,
// in a row of their own, so that ten stay readable.
import type { Schemas } from '../server'
import RulingShape from './RulingShape.vue'

withDefaults(defineProps<{ kinds: Schemas['BoardWhole'][]; size?: number }>(), { size: 40 })
const spoken: Record<string, [one: string, many: string]> = {
  pass: ['passes', 'pass'], fail: ['fails', 'fail'], 'passes-so-far': ['passes so far', 'pass so far'], inconclusive: ['is too close to call', 'are too close to call'],
  'not-covered': ['is not covered', 'are not covered'], 'not-examined': ['is not examined', 'are not examined'], void: ['is void', 'are void'],
  'no-limit': ['has no limit', 'have no limit'], 'not-governed': ['is not governed by the book', 'are not governed by the book'], 'no-claim': ['has no claim', 'have no claim'],
}
</script>

<template>
  <div class="wholes">
    <div v-for="k in kinds.filter((o) => o.per_level)" :key="k.kind" class="whole" :data-whole="k.kind" :data-verdict="k.verdict">
      <RulingShape :verdict="k.verdict" :size="size" />
      <span><b>{{ k.title }} {{ spoken[k.verdict]?.[k.title.endsWith('s') ? 1 : 0] ?? k.verdict }}</b><br /><span class="soft">{{ k.of === 0 ? 'no band and level yet' : k.words }}</span></span>
    </div>
    <div v-if="kinds.some((o) => !o.per_level)" class="lesser">
      <span v-for="k in kinds.filter((o) => !o.per_level)" :key="k.kind" :data-whole="k.kind" :data-verdict="k.verdict" :title="k.words"><RulingShape :verdict="k.verdict" :size="size / 2" /> <b>{{ k.title }}</b> <span class="soft">{{ spoken[k.verdict]?.[0].replace(/^(is|has) /, '') ?? k.verdict }}</span></span>
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
.lesser {
  flex-basis: 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}
.lesser > span {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
b {
  font-size: 17px;
}
.lesser b {
  font-size: 15px;
}
.soft {
  font-size: 14px;
}
</style>
