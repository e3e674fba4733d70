<script setup lang="ts">
// What is owned and can lie on a path: dragged onto it, or put there by Enter.
import { computed, ref } from 'vue'
import { sift, wasUsed } from '../../shared/search'
import { useBench } from '../bench'
import { kindNames } from '../kit/fields'

const emit = defineEmits<{ add: [kitId: string] }>()
const bench = useBench()
const sought = ref('')
const found = computed(() => sift(bench.owned.filter((k) => k.on_path), sought.value, (k) => `${k.name} ${kindNames[k.kind]}`))
/** Puts one on the path; the search is free for the next. */
function add(id: string | undefined) {
  if (!id) return
  wasUsed(id)
  sought.value = ''
  emit('add', id)
}

function begin(e: DragEvent, id: string) {
  e.dataTransfer?.setData('text/x-kit', id)
}
/** Arrow keys walk the list. */
function walk(e: KeyboardEvent) {
  if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return
  const all = [...(e.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('input, button')]
  const at = all.indexOf(document.activeElement as HTMLElement)
  all[at + (e.key === 'ArrowDown' ? 1 : -1)]?.focus()
  e.preventDefault()
}
</script>

<template>
  <div class="shelf" @keydown="walk">
    <h3>Put on the path</h3>
    <ElInput v-model="sought" name="sought" size="small" placeholder="search the bench" aria-label="Search the bench" @keydown.enter.prevent="sought.trim() && add(found[0]?.id)" />
    <button v-for="k in found" :key="k.id" type="button" draggable="true" @dragstart="begin($event, k.id)" @click="add(k.id)">
      {{ k.name }} <small class="soft">{{ kindNames[k.kind] }}</small>
    </button>
    <p v-if="found.length === 0" class="soft">Nothing here that goes by that name. <RouterLink to="/bench/kit">Write down your kit</RouterLink>.</p>
    <p class="soft hint"><kbd>Enter</kbd> puts it before the end, or drag it in.</p>
  </div>
</template>

<style scoped>
.shelf {
  font-size: 14px;
}
button {
  all: unset;
  display: block;
  box-sizing: border-box;
  width: 100%;
  cursor: grab;
  padding: 3px 4px;
  border-top: 1px solid var(--hair);
  line-height: 1.3;
}
button:hover {
  background: var(--press);
}
button:focus-visible {
  outline: 2px solid var(--ink);
}
.hint {
  font-size: 13px;
}
</style>
