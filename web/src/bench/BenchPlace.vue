<script setup lang="ts">
import { watch } from 'vue'
import { stands } from '../scratch/standing'
import OutboxStrip from '../shared/OutboxStrip.vue'
import { useBench } from './bench'
import BenchLine from './line/BenchLine.vue'

const bench = useBench()
watch(() => bench.asked, (a) => stands({ mhz: bench.keyed.mhz, w: a?.levels[0] ? String(a.levels[0].w) : '', book: bench.keyed.book }), { immediate: true })
const corners = [
  { to: '/bench/paths', name: 'Paths' },
  { to: '/bench/kit', name: 'Kit' },
  { to: '/bench/pads', name: 'Which pads' },
  { to: '/bench/meters', name: 'Meters against each other' },
  { to: '/bench/files', name: 'Take out, bring in' },
]
</script>

<template>
  <div class="page">
    <header>
      <h1>Bench</h1>
      <nav aria-label="Bench"><RouterLink v-for="c in corners" :key="c.to" :to="c.to" :class="{ here: $route.path.startsWith(c.to) }">{{ c.name }}</RouterLink></nav>
    </header>
    <p v-if="bench.trouble" class="danger" role="alert">{{ bench.trouble }}</p>
    <OutboxStrip review="" />
    <BenchLine v-if="/\/(paths|kit)/.test($route.path)" :shows="$route.path.startsWith('/bench/kit') ? 'things' : 'paths'" />
    <p v-if="!bench.bench && !bench.trouble" class="soft" role="status">Looking…</p>
    <RouterView v-if="bench.bench && bench.kinds" />
  </div>
</template>

<style scoped>
.page {
  max-width: 1180px;
  padding: 22px 30px 60px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 34px;
  margin-bottom: 14px;
}
nav {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
}
nav a {
  text-decoration: none;
  color: var(--soft);
  padding-bottom: 3px;
}
nav a.here {
  color: var(--ink);
  font-weight: 600;
  box-shadow: 0 2px 0 var(--ink);
}
</style>
