<script setup lang="ts">
// What is still to look at, through which input; and how long to hold.
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { megahertz } from '../../shared/figures'
import { useHere } from '../../shared/here'
import { isField } from '../../shared/typing'
import type { Schemas } from '../../shared/server'

const props = defineProps<{ left: [number, number][] | null; settings: Schemas['WiringSettings'] | null }>()
const emit = defineEmits<{ held: [seconds: number] }>()
const inputs = computed(() => props.settings?.inputs ?? [])
/** What of a stretch an input looks at. */
const through = (from: number, to: number) =>
  inputs.value.filter((i) => i.from_hz < to && i.to_hz > from).map((i) => `${i.name || 'this analyzer'}${i.in_use ? '' : ', another input'}${i.to_hz < to || i.from_hz > from ? `, ${megahertz(Math.max(from, i.from_hz))} to ${megahertz(Math.min(to, i.to_hz))} of it` : ''}`).join('; ')

const here = useHere()
const began = ref(0)
const now = ref(0)
const tick = useIntervalFn(() => {
  now.value = Date.now()
  if (began.value && passed.value >= need.value) tick.pause()
}, 200, { immediate: false })
const need = computed(() => props.settings?.settle_s ?? 15)
const passed = computed(() => (began.value ? (now.value - began.value) / 1000 : 0))
const settled = computed(() => began.value > 0 && passed.value >= need.value)
function hold() {
  if (began.value) {
    emit('held', Math.round((Date.now() - began.value) / 1000))
    began.value = 0
    tick.pause()
    return
  }
  began.value = now.value = Date.now()
  tick.resume()
}
useEventListener('keydown', (e: KeyboardEvent) => {
  if (!here.value || e.key !== 'h' || isField(e.target) || e.ctrlKey || e.metaKey || e.altKey) return
  e.preventDefault()
  hold()
})
</script>

<template>
  <div class="aids">
    <div v-if="left" data-left>
      <b>Still to look at</b>
      <span v-if="!left.length" class="soft">nothing: the search that is asked for is complete</span>
      <span v-for="[a, b] in left" :key="a" class="stretch">{{ megahertz(a) }} to {{ megahertz(b) }}<span class="soft"> {{ through(a, b) ? `through ${through(a, b)}` : 'beyond this analyzer: another is needed' }}</span></span>
    </div>
    <div v-if="settings" class="settle" :class="{ settled }">
      <ElButton size="small" name="hold" @click="hold">{{ began ? 'Held' : 'Hold begins' }} <kbd>h</kbd></ElButton>
      <span class="track" role="progressbar" :aria-valuenow="Math.round(passed)" aria-valuemin="0" :aria-valuemax="need" aria-label="Held for"><i :style="{ width: `${Math.min(100, (passed / need) * 100)}%` }" /></span>
      <span>{{ began ? (settled ? `settled, ${Math.round(passed)} s held` : `${Math.ceil(need - passed)} s more`) : `hold for ${need} s at least, longer where it still grows` }}</span>
    </div>
  </div>
</template>

<style scoped>
.aids {
  display: grid;
  gap: 8px;
  margin: 0 0 12px;
  font-size: 15px;
}
b {
  margin-right: 14px;
}
.stretch {
  margin-right: 22px;
}
.settle {
  display: flex;
  gap: 14px;
  align-items: center;
}
.track {
  width: 260px;
  height: 10px;
  background: var(--press);
}
.track i {
  display: block;
  height: 100%;
  background: var(--soft);
}
.settled .track i {
  background: var(--ink);
}
</style>
