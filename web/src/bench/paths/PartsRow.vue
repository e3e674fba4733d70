<script setup lang="ts">
// The parts of a path left to right from the socket: picked, dragged, set, and
// all of it from the keyboard too.
import { nextTick, ref } from 'vue'
import { date, fine } from '../../shared/figures'
import { partMarks } from '../../shared/shapes/parts'
import { useBench, type Part, type Stairs } from '../bench'

const props = defineProps<{ parts: Part[]; stairs: Stairs | null; width: number }>()
const emit = defineEmits<{ move: [from: number, to: number]; remove: [at: number]; setting: [at: number, to: string]; drop: [kitId: string, at: number]; multiple: [number] }>()

const bench = useBench()
const row = ref<HTMLElement>()
const over = ref(-1)
const at = ref(0) // the part that has the focus

function focus(i: number) {
  at.value = Math.max(0, Math.min(props.parts.length - 1, i))
  void nextTick(() => row.value?.querySelectorAll<HTMLElement>('.part')[at.value]?.focus())
}
defineExpose({ focus, at })

function key(e: KeyboardEvent, i: number) {
  if ((e.target as HTMLElement).tagName === 'SELECT') return
  if (/^[0-9]$/.test(e.key)) {
    emit('multiple', Number(e.key) || 10)
  } else if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
    const to = i + (e.key === 'ArrowLeft' ? -1 : 1)
    if (to < 0 || to >= props.parts.length) return
    if (e.altKey || e.shiftKey) emit('move', i, to)
    focus(to)
  } else if (e.key === 'Delete' || e.key === 'Backspace') {
    emit('remove', i)
    focus(Math.min(i, props.parts.length - 2))
  } else {
    return
  }
  e.preventDefault()
}

function begin(e: DragEvent, i: number) {
  e.dataTransfer?.setData('text/x-part', String(i))
}
function dropped(e: DragEvent, to: number) {
  over.value = -1
  const from = e.dataTransfer?.getData('text/x-part')
  const kit = e.dataTransfer?.getData('text/x-kit')
  if (from) emit('move', Number(from), to > Number(from) ? to - 1 : to)
  else if (kit) emit('drop', kit, to)
}

const nameOf = (p: Part) => bench.byId.get(p.kit_id)?.name ?? 'no longer on the bench'
const settingsOf = (p: Part) => bench.byId.get(p.kit_id)?.settings ?? []
const retired = (p: Part) => bench.byId.get(p.kit_id)?.retired_at != null
const runOf = (i: number) => props.stairs?.runs.find((r) => i >= r.first && i <= r.last)
</script>

<template>
  <div ref="row" class="row" :style="{ width: `${width}px`, gridTemplateColumns: `repeat(${parts.length}, minmax(0, 1fr))` }" role="list" aria-label="Parts of the path">
    <div
      v-for="(p, i) in parts"
      :key="i"
      class="part"
      :class="{ over: over === i, run: runOf(i), first: runOf(i)?.first === i, last: runOf(i)?.last === i }"
      role="listitem"
      :tabindex="i === at ? 0 : -1"
      draggable="true"
      :aria-label="`Part ${i + 1}: ${nameOf(p)}${p.setting ? ', ' + p.setting : ''}`"
      @focus="at = i"
      @keydown="key($event, i)"
      @dragstart="begin($event, i)"
      @dragover.prevent="over = i"
      @dragleave="over = -1"
      @drop.prevent.stop="dropped($event, i)"
    >
      <svg class="is" width="36" height="18" viewBox="0 0 36 18" aria-hidden="true"><path :d="partMarks[bench.byId.get(p.kit_id)?.kind ?? '']" /></svg>
      <span class="name">{{ nameOf(p) }}</span>
      <span v-if="retired(p)" class="soft">retired</span>
      <select v-if="settingsOf(p).length" :value="p.setting" :aria-label="`Setting of ${nameOf(p)}`" @change="emit('setting', i, ($event.target as HTMLSelectElement).value)">
        <option v-if="!settingsOf(p).includes(p.setting ?? '')" :value="p.setting">{{ p.setting || 'all inputs' }}</option>
        <option v-for="s in settingsOf(p)" :key="s" :value="s">{{ s }}</option>
      </select>
      <button type="button" class="off" tabindex="-1" :aria-label="`Take ${nameOf(p)} off the path`" @click="emit('remove', i)">off</button>
      <small v-if="runOf(i)?.last === i" class="soft found">
        measured {{ date(runOf(i)!.on) }}{{ runOf(i)!.measured_db == null ? ', not at this carrier' : `: ${fine(runOf(i)!.measured_db!)} ±${(2 * runOf(i)!.standard_uncertainty_db!).toFixed(2)}` }}{{ runOf(i)!.printed_db == null ? '' : `; printed ${fine(runOf(i)!.printed_db!)}` }}
      </small>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
}
.part {
  position: relative;
  display: flex;
  flex-direction: column;
  gap: 2px;
  min-height: 62px;
  padding: 6px 8px;
  border-left: 1px solid var(--hair);
  font-size: 14px;
  line-height: 1.25;
  cursor: grab;
}
.part.over {
  box-shadow: inset 4px 0 0 var(--ink);
}
.part:focus {
  background: var(--press);
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.part.run::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
  border-bottom: 2px solid var(--soft);
}
.part.run.first::after {
  left: 6px;
  border-left: 2px solid var(--soft);
  height: 6px;
}
.part.run.last::after {
  right: 6px;
  border-right: 2px solid var(--soft);
  height: 6px;
}
.is {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.name {
  font-weight: 500;
  overflow-wrap: anywhere;
}
.found {
  font-size: 12px;
}
select {
  font-size: 14px;
  max-width: 100%;
}
.off {
  all: unset;
  position: absolute;
  top: 4px;
  right: 6px;
  font-size: 12px;
  color: var(--soft);
  background: var(--sheet);
  padding: 0 3px;
  cursor: pointer;
  opacity: 0;
}
.part:hover .off,
.part:focus .off,
.off:focus-visible {
  opacity: 1;
}
</style>
