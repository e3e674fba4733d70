<script setup lang="ts">
// What is wrong with a path, and what on the bench would cure it.
import { db } from '../../shared/figures'
import type { Cure, Stairs } from '../bench'

defineProps<{ stairs: Stairs; take?: string }>()
defineEmits<{ cure: [Cure] }>()
// What is to be measured is done where paths are drawn; nothing is put on this one.
const measures = (c: Cure) => c.steps.some((s) => s.do === 'measure')
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)
</script>

<template>
  <ul v-if="stairs.problems.length" class="problems">
    <li v-for="(p, i) in stairs.problems" :key="i" :class="p.severity">
      <b>{{ p.severity === 'danger' ? 'Danger' : 'Caution' }}:</b> {{ p.detail }}
    </li>
  </ul>
  <ul v-if="stairs.dc?.problems.length" class="problems">
    <li v-for="(p, i) in stairs.dc.problems" :key="i" :class="p.severity">
      <b>{{ p.severity === 'danger' ? 'Danger' : 'Caution' }}:</b> {{ p.detail }}
    </li>
  </ul>
  <div v-if="stairs.cures.length" class="cures">
    <span class="soft">{{ stairs.safe ? 'On your bench this would do:' : 'On your bench this would cure it:' }}</span>
    <RouterLink v-for="c in stairs.cures.filter(measures)" :key="c.detail" class="cure" to="/bench/paths">{{ capital(c.detail) }}</RouterLink>
    <ElButton v-for="c in stairs.cures.filter((x) => !measures(x))" :key="c.detail" size="small" class="cure" @click="$emit('cure', c)">
      {{ take ?? '' }}{{ take ? c.detail : capital(c.detail) }}
      <small>{{ c.headroom_db == null ? '' : `room ${db(c.headroom_db)}` }}{{ c.spare_db == null ? '' : `, ${c.spare_db < 0 ? 'cannot see the limit by' : 'sees under the limit by'} ${db(Math.abs(c.spare_db)).replace('+', '')}` }}</small>
    </ElButton>
  </div>
  <p v-else-if="!stairs.safe && stairs.problems.some((p) => p.severity === 'danger')" class="soft">Nothing you own would cure this, neither alone nor two together.</p>
</template>

<style scoped>
.problems {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
.problems li {
  border-left: 3px solid var(--amber);
  padding: 2px 10px;
  margin: 4px 0;
}
.problems .danger {
  border-color: var(--rust);
}
.cures {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin: 8px 0;
}
.cure {
  margin: 0;
  height: auto;
  white-space: normal;
  text-align: left;
  padding: 6px 10px;
}
small {
  margin-left: 8px;
  color: var(--soft);
}
</style>
