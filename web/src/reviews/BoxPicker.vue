<script setup lang="ts">
// The boxes of a review, a band at a level each; done ones have a full dot.
import type { Cell } from '../shared/server'

defineProps<{ cells: Cell[]; done?: (c: Cell) => boolean }>()
const at = defineModel<number>({ required: true })
</script>

<template>
  <div class="boxes" role="group" aria-label="Band and level">
    <button v-for="(c, i) in cells" :key="c.name" type="button" :aria-pressed="i === at" @click="at = i">
      {{ c.name }}<i v-if="done" :class="{ done: done(c) }" />
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
