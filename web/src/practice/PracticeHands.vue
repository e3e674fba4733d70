<script setup lang="ts">
// The hands on a practice bench, above every stage: the radio's key and knobs, what it is connected to,
// and the meter as it stands there.
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import { useBench } from '../bench/bench'
import { megahertz } from '../shared/figures'
import { usePractice } from './practice'

const props = defineProps<{ review: string }>()
const bench = useBench()
const { now, hand, say, trouble, band } = usePractice(() => props.review)
const seen = computed(() => now.value?.seen)
const wired = computed(() => bench.paths.find((p) => p.id === now.value?.wired))
const hasMeter = computed(() => wired.value?.parts.some((p) => bench.byId.get(p.kit_id)?.spec.meter) ?? false)
const key = () => say('transmitter', `KEY ${seen.value?.keyed ? 'OFF' : 'ON'}`)
useEventListener('keydown', (e: KeyboardEvent) => {
  if (!e.altKey || e.ctrlKey || e.metaKey || e.code !== 'KeyK') return
  e.preventDefault()
  void key()
})
</script>

<template>
  <section v-if="now && seen" class="hands" :class="{ keyed: seen.keyed }" data-hands aria-label="Hands on the practice bench">
    <span class="soft word">practice</span>
    <span class="knob"><button v-for="b in now.bands" :key="b.band" type="button" :name="`band-${b.band}`" :aria-pressed="band === b.band" @click="say('transmitter', `FREQ ${b.tuned_hz}`)">{{ megahertz(b.tuned_hz) }}</button></span>
    <span class="knob"><button v-for="l in now.levels" :key="l" type="button" :name="`level-${l}`" :aria-pressed="seen.level === l" @click="say('transmitter', `LEV ${l}`)">{{ l }}</button></span>
    <label class="to"><span class="soft">connected to</span><ElSelect :model-value="now.wired" size="small" aria-label="Connected to" @update:model-value="(id: string) => hand({ wire: id })"><ElOption v-for="p in bench.paths" :key="p.id" :value="p.id" :label="p.name" /></ElSelect></label>
    <button type="button" class="key" name="key" :aria-pressed="seen.keyed" @click="key">{{ seen.keyed ? 'on air: let go' : 'press the key' }} <kbd>Alt K</kbd></button>
    <span v-if="hasMeter" class="meter mono" data-meter>{{ seen.blind ? '-.--' : seen.meter.toFixed(2) }} W</span>
    <span v-else class="soft">no meter on it</span>
    <p v-if="trouble" class="danger" role="alert">{{ trouble }}</p>
  </section>
</template>

<style scoped>
.hands {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  margin: -6px 0 14px;
  padding: 6px 10px;
  border: 1px solid var(--hair);
  background: var(--press);
  font-size: 14px;
}
.hands.keyed {
  border-color: var(--ink);
}
.word {
  font-family: Fraunces, serif;
}
button {
  all: unset;
  cursor: pointer;
  padding: 3px 9px;
  border: 1px solid var(--soft);
}
button:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: 1px;
}
.knob button + button {
  border-left: 0;
}
.knob [aria-pressed='true'],
.key[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
.key[aria-pressed='true'] kbd {
  color: var(--sheet);
  border-color: var(--sheet);
}
.to {
  display: flex;
  gap: 8px;
  align-items: center;
  min-width: 250px;
}
.to :deep(.el-select) {
  width: 190px;
}
.meter {
  font-size: 18px;
}
p {
  flex-basis: 100%;
  margin: 0;
}
</style>
