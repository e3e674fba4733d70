<script setup lang="ts">
// The keys that work here, and the words of this screen. It lies beside the work and stops nothing.
import { computed, nextTick, ref, watch } from 'vue'
import { helpOpen, helps } from './index'
import { meanings } from './words'

const panel = ref<HTMLElement>()
let before: HTMLElement | null = null
watch(helpOpen, (on) => {
  if (on) {
    before = document.activeElement as HTMLElement | null
    void nextTick(() => panel.value?.focus())
  } else if (before?.isConnected) before.focus({ preventScroll: true })
})
const words = computed(() => [...new Set(helps.value.flatMap((h) => h.words))])
const everywhere = [['?', 'this, where nothing is being typed'], ['Esc', 'leaves a field for the page'], ['Alt R', 'Reviews'], ['Alt B', 'Bench'], ['Alt P', 'Practise'], ['Alt L', 'Rule books'], ['Alt C', 'Compare'], ['Alt S', 'Scratch pad, with what stands here']] as const
</script>

<template>
  <aside v-if="helpOpen" ref="panel" class="help" tabindex="-1" aria-label="Keys and words" @keydown.esc.stop.prevent="helpOpen = false">
    <header><h2>Keys and words</h2><button type="button" class="link" name="close-help" @click="helpOpen = false">close <kbd>Esc</kbd></button></header>
    <section v-for="h in helps.filter((x) => x.keys.length)" :key="h.title">
      <h3>{{ h.title }}</h3>
      <dl><template v-for="[key, does] in h.keys" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></template></dl>
    </section>
    <section>
      <h3>Everywhere</h3>
      <dl><template v-for="[key, does] in everywhere" :key="key"><dt><kbd>{{ key }}</kbd></dt><dd>{{ does }}</dd></template></dl>
    </section>
    <section v-if="words.length">
      <h3>Words of this screen</h3>
      <dl class="words"><template v-for="w in words" :key="w"><dt>{{ w }}</dt><dd>{{ meanings[w] }}</dd></template></dl>
    </section>
  </aside>
</template>

<style scoped>
.help {
  position: fixed;
  z-index: 20;
  top: 0;
  right: 0;
  bottom: 0;
  width: min(400px, 92vw);
  overflow: auto;
  padding: 18px 22px 28px;
  background: var(--sheet);
  border-left: 2px solid var(--ink);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 8px;
}
h3 {
  margin: 14px 0 4px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 5px 12px;
  margin: 0;
  font-size: 15px;
}
dd {
  margin: 0;
}
.words {
  grid-template-columns: 1fr;
  gap: 0;
}
.words dt {
  font-weight: 600;
}
.words dd {
  margin-bottom: 6px;
}
.help:focus {
  outline: none;
}
</style>
