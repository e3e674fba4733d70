import { createPinia } from 'pinia'
import { createApp } from 'vue'
import App from './App.vue'
import { router } from './router'
import { listen, resume, resumeKept } from './shared/server'
import './shared/theme/theme.css'

createApp(App).use(createPinia()).use(router).mount('#app')
void resume()
resumeKept({
  review: () => import('./reviews/review').then((m) => m.sort as never),
  kit: () => import('./bench/kit/keptKit').then((m) => m.sort as never),
  path: () => import('./bench/paths/draft').then((m) => m.sort as never),
})
listen()
