<script setup lang="ts">
// What is keyed into the bench, for everything in this place.
import { useBench } from './bench'

const bench = useBench()
const modes = ['FM', 'AM', 'SSB', 'CW', 'DIGITAL'] as const
</script>

<template>
  <div class="strip">
    <label>Carrier, MHz <ElInput v-model="bench.keyed.mhz" name="carrier" inputmode="decimal" /></label>
    <label>Claimed powers, W <ElInput v-model="bench.keyed.watts" name="watts" placeholder="25/10/5" /></label>
    <label>Mode <select v-model="bench.keyed.mode" aria-label="Mode"><option v-for="m in modes" :key="m">{{ m }}</option></select></label>
    <label class="book">Rule book <select v-model="bench.keyed.book" aria-label="Rule book"><option v-for="b in bench.books" :key="b.id" :value="b.id">{{ b.title }}</option></select></label>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  align-items: baseline;
  font-size: 14px;
  color: var(--soft);
}
label {
  display: flex;
  align-items: baseline;
  gap: 6px;
}
.el-input {
  width: 90px;
}
select {
  padding: 4px 0;
}
.book select {
  max-width: 260px;
}
</style>
