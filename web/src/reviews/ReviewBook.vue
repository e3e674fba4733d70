<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useReview } from './review'

const route = useRoute()
const router = useRouter()
const book = useReview()
const id = computed(() => String(route.params.id))
watch(id, (v) => book.load(v), { immediate: true })

// Stages keep the number they have in the whole order of work.
const stages = computed(() => {
  const r = book.review
  const boxes = Math.max(1, r?.cells.length ?? 1)
  return [
    { key: '1', to: 'radio', name: 'Radio', done: r ? radioDone(r.subject.come_by !== '', r.cells.length > 0, r.subject.serial !== '') : 0 },
    { key: '3', to: 'power', name: 'Power', done: Math.min(1, (r?.readings ?? 0) / boxes) },
    { key: '4', to: 'emissions', name: 'Emissions', done: Math.min(1, (r?.sweeps ?? 0) / boxes) },
    { key: '6', to: 'ruling', name: 'Ruling', done: r && r.readings > 0 && r.sweeps > 0 ? 1 : 0 },
    { key: '7', to: 'publish', name: 'Publish', done: r?.editions.length ? 1 : 0 },
  ]
})

function radioDone(...parts: boolean[]): number {
  return parts.filter(Boolean).length / parts.length
}

// Digits turn the page unless something is being typed.
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  const at = e.target as HTMLElement
  if (e.ctrlKey || e.metaKey || e.altKey || at.closest('input, textarea, select, [contenteditable]')) return
  const stage = stages.value.find((s) => s.key === e.key)
  if (stage) void router.push(`/reviews/${id.value}/${stage.to}`)
})
</script>

<template>
  <div class="book">
    <section class="leaf">
      <header>
        <h1>{{ book.review?.title ?? ' ' }}</h1>
        <span class="soft" aria-live="polite">{{ book.saving ? 'saving' : '' }}</span>
      </header>
      <p v-if="book.trouble" class="danger trouble" role="alert">
        {{ book.trouble }} <ElButton v-if="book.stale" size="small" @click="book.load(id)">Read it again</ElButton>
      </p>
      <RouterView v-if="book.review" :key="id" />
    </section>
    <nav class="tabs" aria-label="Stages">
      <RouterLink v-for="s in stages" :key="s.to" :to="`/reviews/${id}/${s.to}`" class="tab">
        <i class="fill" :style="{ height: `${s.done * 100}%` }" />
        <span>{{ s.name }}</span> <kbd>{{ s.key }}</kbd>
      </RouterLink>
    </nav>
  </div>
</template>

<style scoped>
.book {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 124px;
  min-height: 100vh;
}
.leaf {
  background: var(--sheet);
  border-right: 1px solid var(--hair);
  padding: 18px 28px 28px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--hair);
  padding-bottom: 10px;
  margin-bottom: 16px;
}
h1 {
  font-size: 21px;
}
.trouble {
  border-left: 3px solid var(--rust);
  padding: 4px 12px;
}
.tabs {
  position: sticky;
  top: 0;
  height: 100vh;
  padding-top: 64px;
  display: flex;
  flex-direction: column;
  gap: 6px;
}
.tab {
  position: relative;
  display: flex;
  justify-content: space-between;
  align-items: center;
  padding: 16px 10px 16px 14px;
  margin-left: -1px;
  border: 1px solid var(--hair);
  border-left: 0;
  border-radius: 0 6px 6px 0;
  text-decoration: none;
  font-size: 15px;
  color: var(--soft);
}
.tab.router-link-active {
  background: var(--sheet);
  color: var(--ink);
  font-weight: 600;
}
.fill {
  position: absolute;
  right: -1px;
  bottom: 0;
  width: 4px;
  background: var(--ink);
  border-radius: 0 0 4px 0;
}
</style>
