<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, ask, type Bench, type Refusal } from '../shared/api/client'
import KitStrip from './KitStrip.vue'
import PathStaircase from './PathStaircase.vue'

const bench = ref<Bench | null>(null)
const trouble = ref('')
const frequency = ref('146.52')
const power = ref('5')

onMounted(async () => {
  try {
    bench.value = await ask(api.GET('/api/v1/bench'))
  } catch (e) {
    trouble.value = (e as Refusal).message
  }
})

const number = (text: string) => Number(text.replace(',', '.')) || 0
</script>

<template>
  <div class="page">
    <h1>Bench</h1>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
    <template v-if="bench">
      <section>
        <div class="head">
          <h2>Paths</h2>
          <label>Carrier, MHz <ElInput v-model="frequency" inputmode="decimal" /></label>
          <label>Claimed at most, W <ElInput v-model="power" inputmode="decimal" /></label>
          <span class="soft">keys <kbd>1</kbd> to <kbd>0</kbd> on a path: multiples of the carrier</span>
        </div>
        <p v-if="!(number(frequency) > 0 && number(power) > 0)" class="danger">Give a carrier in MHz and a power in W, both above 0.</p>
        <div v-for="p in bench.paths" v-else :key="p.id" class="sheet path">
          <PathStaircase :path-id="p.id" :frequency-hz="number(frequency) * 1e6" :claimed-w="number(power)" />
        </div>
        <p v-if="bench.paths.length === 0" class="soft">No path is kept yet. The demo brings five.</p>
      </section>
      <section>
        <h2>Kit</h2>
        <p class="soft">Each thing over the frequencies it is made for, from 100 kHz to 10 GHz.</p>
        <KitStrip v-for="k in bench.kit" :key="k.id" :item="k" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.page {
  max-width: 1160px;
  padding: 28px 36px 60px;
}
.head {
  display: flex;
  gap: 28px;
  align-items: end;
  margin: 14px 0;
}
.head label {
  font-size: 14px;
  color: var(--soft);
  width: 150px;
}
.head .soft:last-child {
  margin-left: auto;
  font-size: 14px;
}
.path {
  margin-bottom: 14px;
}
section + section {
  margin-top: 36px;
}
</style>
