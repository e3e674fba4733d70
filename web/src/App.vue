<script setup lang="ts">
import { useEventListener, useMutationObserver } from '@vueuse/core'
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import en from 'element-plus/es/locale/lang/en'
import { helpOpen } from './shared/help'
import HelpPanel from './shared/help/HelpPanel.vue'
import { useTitled } from './shared/titled'
import { isField } from './shared/typing'

// The library's own words are none of ours.
const ourWords = { ...en, el: { ...en.el, select: { ...en.el.select, placeholder: 'choose', noData: 'nothing there', noMatch: 'nothing goes by that', loading: 'looking…' } } }

const places = [
  { to: '/reviews', key: 'R', name: 'Reviews', icon: 'M5 4h11l3 3v13H5zM8 10h8M8 14h8M8 18h5' },
  { to: '/bench', key: 'B', name: 'Bench', icon: 'M3 9h18M5 9v10M19 9v10M7 5h4v4H7zM15 6v3' },
  { to: '/practise', key: 'P', name: 'Practise', icon: 'M4 18h16M6 18v-7h5v7M8 8V4M14 14h5v4M16 14c0-3 3-3 3-6' },
  { to: '/rule-books', key: 'L', name: 'Rule books', icon: 'M6 4h13v16H6a2 2 0 0 1-2-2V6a2 2 0 0 1 2-2zM8 4v16M12 9h4' },
  { to: '/compare', key: 'C', name: 'Compare', icon: 'M4 7h16M4 17h16M9 7a2 2 0 1 0-4 0 2 2 0 0 0 4 0zM19 17a2 2 0 1 0-4 0 2 2 0 0 0 4 0z' },
  { to: '/scratch', key: 'S', name: 'Scratch pad', icon: 'M6 3h12v18H6zM9 7h6M9 11h2M13 11h2M9 14h2M13 14h2M9 17h6' },
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

// A page is called by where one is: a review's stages name their radio.
const stage = useTitled()
watch(() => [route.path, stage.value] as const, ([path, of]) => {
  const place = places.find((p) => path.startsWith(p.to))
  document.title = [of || place?.name, 'Tall Oak'].filter(Boolean).join(', ')
}, { immediate: true })

// Alt and a letter go to a place, from anywhere; a question mark asks for help where it is not typed.
const router = useRouter()
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (route.meta.bare || e.ctrlKey || e.metaKey || e.defaultPrevented) return
  if (e.key === '?' && !e.altKey && !isField(e.target)) {
    e.preventDefault()
    helpOpen.value = !helpOpen.value
    return
  }
  const place = e.altKey && !e.shiftKey ? places.find((p) => e.code === `Key${p.key}`) : undefined
  if (!place) return
  e.preventDefault()
  // The scratch pad is gone to with what stands here, and left again by the same key.
  if (place.key === 'S') return void (route.path === place.to ? router.back() : router.push({ path: place.to, query: { from: '1' } }))
  void router.push(place.to)
})

function toggleRoom() {
  dim.value = !dim.value
  document.documentElement.classList.toggle('dark', dim.value)
  localStorage.setItem('room', dim.value ? 'dim' : 'day')
}
</script>

<template>
  <ElConfigProvider :locale="ourWords">
  <RouterView v-if="route.meta.bare" />
  <div v-else class="shell">
    <nav class="rail" aria-label="Places">
      <RouterLink to="/" class="mark" aria-label="Tall Oak"><img src="/mark.svg" width="34" height="34" alt="" /></RouterLink>
      <RouterLink v-for="p in places" :key="p.to" :to="p.to" class="place" :title="`Alt ${p.key}`">
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true"><path :d="p.icon" /></svg>
        {{ p.name }}
      </RouterLink>
      <button class="place help-me" type="button" name="help" :aria-expanded="helpOpen" @click="helpOpen = !helpOpen">
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true"><path d="M4 5h16v11H12l-4 4v-4H4zM10 9.2a2 2 0 1 1 3 1.8c-.7.4-1 .8-1 1.6M12 14.2v.1" /></svg>
        Keys, words
      </button>
      <button class="place room" type="button" :aria-pressed="dim" @click="toggleRoom">
        <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden="true"><path d="M8 11a4 4 0 1 1 8 0c0 2-2 3-2 5h-4c0-2-2-3-2-5zM10 19h4" /></svg>
        {{ dim ? 'Daylight' : 'Dim room' }}
      </button>
      <form v-if="shared" method="post" action="/logout"><button class="place" type="submit" name="log-out">Log out</button></form>
    </nav>
    <main ref="page" tabindex="-1"><RouterView /></main>
    <HelpPanel />
  </div>
  </ElConfigProvider>
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
.help-me {
  margin-top: auto;
}
.rail form {
  display: grid;
}
main {
  min-width: 0;
}
/* On a small window, or at twice the size, the places stand in a row on top. */
@media (max-width: 820px) {
  .shell {
    grid-template-columns: 1fr;
    grid-template-rows: auto 1fr;
  }
  .rail {
    position: static;
    height: auto;
    flex-direction: row;
    flex-wrap: wrap;
    align-items: center;
    gap: 0 2px;
    padding: 4px 10px;
    border-right: 0;
    border-bottom: 1px solid var(--hair);
  }
  .mark {
    margin: 0 8px 0 0;
  }
  .place {
    flex-direction: row;
    padding: 6px;
  }
  .place svg {
    display: none;
  }
  .place.router-link-active {
    box-shadow: inset 0 -3px 0 var(--ink);
  }
  .help-me {
    margin: 0 0 0 auto;
  }
}
main:focus {
  outline: none;
}
</style>
