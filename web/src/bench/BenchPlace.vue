<script setup lang="ts">
import OutboxStrip from '../shared/OutboxStrip.vue'
import { useBench } from './bench'

const bench = useBench()
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
  align-items: baseline;
  gap: 34px;
  margin-bottom: 14px;
}
nav {
  display: flex;
  gap: 22px;
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
