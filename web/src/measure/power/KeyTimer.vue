<script setup lang="ts">
// Keyed seconds against the duty of load and radio: then it says rest.
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'

// How long is said before keying, with the path.
const props = defineProps<{ keyS: number; restS: number }>()
const keySeconds = computed(() => props.keyS)
const restSeconds = computed(() => props.restS)
const state = ref<'idle' | 'keyed' | 'rest'>('idle')
const elapsed = ref(0)
let since = 0

const { resume, pause } = useIntervalFn(
  () => {
    elapsed.value = (performance.now() - since) / 1000
    if (state.value === 'rest' && elapsed.value >= restSeconds.value) {
      state.value = 'idle'
      pause()
    }
  },
  100,
  { immediate: false },
)

function begin(next: 'keyed' | 'rest') {
  state.value = next
  since = performance.now()
  elapsed.value = 0
  resume()
}

function toggle() {
  begin(state.value === 'keyed' ? 'rest' : 'keyed')
}
defineExpose({ toggle })

const over = computed(() => state.value === 'keyed' && elapsed.value > keySeconds.value)
const share = computed(() => Math.min(1, elapsed.value / (state.value === 'rest' ? restSeconds.value : keySeconds.value)))
const words = computed(() => {
  if (state.value === 'idle') return 'not keyed'
  if (state.value === 'rest') return `rest, ${Math.max(0, Math.ceil(restSeconds.value - elapsed.value))} s`
  return over.value ? `unkey and rest: ${elapsed.value.toFixed(0)} s` : `keyed ${elapsed.value.toFixed(0)} of ${keySeconds.value} s`
})
</script>

<template>
  <div class="timer" role="timer" :class="{ over }">
    <div class="bar"><i :class="state" :style="{ width: `${(state === 'rest' ? 1 - share : share) * 100}%` }" /></div>
    <span>{{ words }}</span>
  </div>
</template>

<style scoped>
.timer {
  display: grid;
  grid-template-columns: 1fr 210px;
  gap: 14px;
  align-items: center;
  font-size: 22px;
}
.bar {
  height: 12px;
  border: 1px solid var(--soft);
}
i {
  display: block;
  height: 100%;
  background: var(--ink);
}
i.rest {
  background: var(--hair);
}
.over {
  color: var(--rust);
}
.over i {
  background: var(--rust);
}
</style>
