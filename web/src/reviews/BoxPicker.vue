<script setup lang="ts">
// The boxes of a review, a band at a level each; done ones have a full dot.
import type { Cell } from '../shared/server'

import { computed } from 'vue'

const props = defineProps<{ cells: Cell[]; done?: (c: Cell) => boolean }>()
const at = defineModel<number>({ required: true })
// Where there are many, the bands stand in a row and the levels of one under it.
const many = computed(() => props.cells.length > 12)
const bandOf = (c: Cell) => `${c.band.name} ${c.mode}`
const bands = computed(() => {
  const out: { name: string; key: string; first: number; done: boolean }[] = []
  props.cells.forEach((c, i) => {
    const d = props.done?.(c) ?? false
    const b = out.find((o) => o.key === bandOf(c))
    if (b) b.done &&= d
    else out.push({ name: c.band.name, key: bandOf(c), first: i, done: d })
  })
  return out
})
const here = computed(() => props.cells.map((c, i) => ({ c, i })).filter(({ c }) => !many.value || (props.cells[at.value] && bandOf(c) === bandOf(props.cells[at.value]!))))
</script>

<template>
  <div class="boxes" role="group" aria-label="Band and level">
    <template v-if="many">
      <button v-for="b in bands" :key="b.key" type="button" :aria-pressed="bandOf(cells[at]!) === b.key" @click="at = b.first">{{ b.name }}<i v-if="done" :class="{ done: b.done }" /></button>
      <span class="row" />
    </template>
    <button v-for="{ c, i } in here" :key="c.name" type="button" :aria-pressed="i === at" @click="at = i">
      {{ many ? c.level : c.name }}<i v-if="done" :class="{ done: done(c) }" />
    </button>
    <slot />
  </div>
</template>

<style scoped>
.boxes {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 2px;
  align-items: center;
}
.row {
  flex-basis: 100%;
}
button {
  all: unset;
  cursor: pointer;
  padding: 4px 10px;
  color: var(--soft);
}
button[aria-pressed='true'] {
  color: var(--ink);
  font-weight: 600;
  background: var(--press);
}
button:focus-visible {
  outline: 2px solid var(--ink);
}
i {
  display: inline-block;
  width: 7px;
  height: 7px;
  margin-left: 6px;
  border: 1.5px solid var(--soft);
  border-radius: 50%;
}
i.done {
  background: var(--ink);
  border-color: var(--ink);
}
</style>
