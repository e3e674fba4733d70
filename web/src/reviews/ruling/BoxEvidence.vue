<script setup lang="ts">
// What stands behind a box: each kind of measurement shows its own.
import { defineAsyncComponent } from 'vue'
import GhostLine from '../GhostLine.vue'
import { screens } from '../../measure/screens'
import type { BoardCell } from '../../shared/server'

defineProps<{ cell: BoardCell }>()
const evidence = Object.fromEntries(screens.map((s) => [s.kind, defineAsyncComponent(s.evidence)]))
</script>

<template>
  <aside class="evidence">
    <h2>{{ cell.name }}</h2>
    <GhostLine :box="cell.name" power />
    <component :is="evidence[b.kind]" v-for="b in cell.boxes" :key="b.kind" :box="b" :cell="cell.cell" />
  </aside>
</template>

<style scoped>
.evidence {
  border-left: 1px solid var(--hair);
  padding-left: 22px;
  font-size: 15px;
}
</style>
