<script setup lang="ts">
import { useMutationObserver } from '@vueuse/core'
import { ref } from 'vue'
import { useRoute } from 'vue-router'

const places = [
  { to: '/reviews', name: 'Reviews', icon: 'M5 4h11l3 3v13H5zM8 10h8M8 14h8M8 18h5' },
  { to: '/bench', name: 'Bench', icon: 'M3 9h18M5 9v10M19 9v10M7 5h4v4H7zM15 6v3' },
  { to: '/practise', name: 'Practise', icon: 'M4 18h16M6 18v-7h5v7M8 8V4M14 14h5v4M16 14c0-3 3-3 3-6' },
  { to: '/rule-books', name: 'Rule books', icon: 'M6 4h13v16H6a2 2 0 0 1-2-2V6a2 2 0 0 1 2-2zM8 4v16M12 9h4' },
  { to: '/compare', name: 'Compare', icon: 'M4 7h16M4 17h16M9 7a2 2 0 1 0-4 0 2 2 0 0 0 4 0zM19 17a2 2 0 1 0-4 0 2 2 0 0 0 4 0z' },
]
const route = useRoute()
const dim = ref(document.documentElement.classList.contains('dark'))

// Where a password was asked for there is a way out.
const shared = document.cookie.split('; ').includes('talloak-in=1')

// The focus is never on nothing: where what had it is gone, the page has it, and its keys work.
const page = ref<HTMLElement>()
const onNothing = () => document.activeElement === document.body || document.activeElement === null
function keepFocus() {
  if (onNothing()) (page.value?.querySelector<HTMLElement>('.leaf') ?? page.value)?.focus({ preventScroll: true })
}
// Between one field and the next nothing has it either: that is waited for.
useMutationObserver(page, () => { if (onNothing()) setTimeout(keepFocus) }, { childList: true, subtree: true })

function toggleRoom() {
  dim.value = !dim.value
  document.documentElement.classList.toggle('dark', dim.value)
  localStorage.setItem('room', dim.value ? 'dim' : 'day')
}
</script>

<template>
  <RouterView v-if="route.meta.bare" />
  <div v-else class="shell">
    <nav class="rail" aria-label="Places">
      <RouterLink to="/" class="mark" aria-label="Tall Oak"><img src="/mark.svg" width="34" height="34" alt="" /></RouterLink>
      <RouterLink v-for="p in places" :key="p.to" :to="p.to" class="place">
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true"><path :d="p.icon" /></svg>
        {{ p.name }}
      </RouterLink>
      <button class="place room" type="button" :aria-pressed="dim" @click="toggleRoom">
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true"><path d="M8 11a4 4 0 1 1 8 0c0 2-2 3-2 5h-4c0-2-2-3-2-5zM10 19h4" /></svg>
        {{ dim ? 'Daylight' : 'Dim room' }}
      </button>
      <form v-if="shared" method="post" action="/logout"><button class="place" type="submit" name="log-out">Log out</button></form>
    </nav>
    <main ref="page" tabindex="-1"><RouterView /></main>
  </div>
</template>

<style scoped>
.shell {
  display: grid;
  grid-template-columns: 84px 1fr;
  min-height: 100vh;
}
.rail {
  position: sticky;
  top: 0;
  height: 100vh;
  border-right: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  align-items: stretch;
  padding: 12px 0;
}
.mark {
  align-self: center;
  margin-bottom: 14px;
}
.place {
  all: unset;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 4px;
  padding: 11px 2px;
  font-size: 13px;
  color: var(--soft);
}
.place:hover,
.place.router-link-active {
  color: var(--ink);
}
.place.router-link-active {
  background: var(--sheet);
  box-shadow: inset 3px 0 0 var(--ink);
}
.place:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: -3px;
}
.place svg {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.room {
  margin-top: auto;
}
.rail form {
  display: grid;
}
main {
  min-width: 0;
}
main:focus {
  outline: none;
}
</style>
