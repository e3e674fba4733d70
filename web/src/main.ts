import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { listen, resume, resumeKept } from './shared/server'
import './shared/theme/theme.css'

// Tab selects what a field has, to be typed over, in a field of several lines too.
let tabbed = false
window.addEventListener('keydown', (e) => {
  tabbed = e.key === 'Tab'
  setTimeout(() => (tabbed = false)) // the focus moves with the key itself
}, true)
window.addEventListener('focusin', (e) => { if (tabbed && (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) && !['entry', 'look'].includes(e.target.name)) e.target.select() })

createApp(App).use(createPinia()).use(router).mount('#app')
void resume()
resumeKept({
  review: () => import('./reviews/review').then((m) => m.sort as never),
  kit: () => import('./bench/kit/keptKit').then((m) => m.sort as never),
  path: () => import('./bench/paths/draft').then((m) => m.sort as never),
})
listen()
