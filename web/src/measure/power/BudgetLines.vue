<script setup lang="ts">
// What the ± of a figure is made of, line by line.
import { computed } from 'vue'
import type { Schemas } from '../../shared/server'

const props = defineProps<{ result: Schemas['ReadingResult'] }>()
const lines = computed(() => [...props.result.budget].sort((a, b) => b.relative - a.relative))
const most = computed(() => Math.max(1e-9, ...lines.value.map((l) => l.relative)))
const whole = computed(() => Math.sqrt(lines.value.reduce((sum, l) => sum + l.relative * l.relative, 0)))
const pct = (v: number) => `${(100 * v).toFixed(2)} %`
</script>

<template>
  <table class="budget">
    <tbody>
      <tr v-for="l in lines" :key="l.source">
        <td>{{ l.source }}</td>
        <td class="bar"><i :style="{ width: `${(l.relative / most) * 100}%` }" /></td>
        <td class="n">{{ pct(l.relative) }}</td>
        <td class="soft">{{ l.distribution }}</td>
      </tr>
      <tr><td><b>together, k = 2</b></td><td /><td class="n"><b>{{ pct(2 * whole) }}</b></td><td class="soft">of the power</td></tr>
    </tbody>
  </table>
</template>

<style scoped>
.budget {
  border-collapse: collapse;
  font-size: 15px;
  margin: 4px 0;
}
td {
  padding: 1px 12px 1px 0;
}
.bar {
  width: 150px;
}
.bar i {
  display: block;
  height: 8px;
  background: var(--soft);
}
.n {
  text-align: right;
}
</style>
