import { createRouter, createWebHistory } from 'vue-router'
import { screens } from './measure/screens'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/reviews' },
    { path: '/reviews', component: () => import('./reviews/ReviewList.vue') },
    { path: '/reviews/:id/figures', component: () => import('./measure/LargeFigures.vue'), meta: { bare: true } },
    {
      path: '/reviews/:id',
      component: () => import('./reviews/ReviewBook.vue'),
      children: [
        { path: '', redirect: (to) => `/reviews/${String(to.params.id)}/radio` },
        { path: 'radio', component: () => import('./reviews/radio/RadioStage.vue') },
        { path: 'sheet', component: () => import('./reviews/sheet/SheetStage.vue') },
        // Each kind of measurement has its own stage, found by its folder.
        ...screens.map((s) => ({ path: s.kind, component: s.stage })),
        { path: 'ruling', component: () => import('./reviews/ruling/RulingStage.vue') },
        { path: 'practice', component: () => import('./practice/PracticeStage.vue') },
        { path: 'publish', component: () => import('./reviews/publish/PublishStage.vue') },
      ],
    },
    {
      path: '/bench',
      component: () => import('./bench/BenchPlace.vue'),
      children: [
        { path: '', redirect: '/bench/paths' },
        { path: 'paths/:id?', component: () => import('./bench/paths/PathsTab.vue') },
        { path: 'kit', component: () => import('./bench/kit/KitTab.vue') },
        { path: 'pads', component: () => import('./bench/pads/PadsTab.vue') },
        { path: 'meters', component: () => import('./bench/meters/MetersTab.vue') },
        { path: 'files', component: () => import('./bench/files/FilesTab.vue') },
      ],
    },
    { path: '/rule-books', component: () => import('./rulebooks/RuleBooks.vue') },
    { path: '/scratch', component: () => import('./scratch/ScratchPad.vue') },
    { path: '/practise', component: () => import('./practice/PracticePlace.vue') },
    { path: '/compare', component: () => import('./compare/ComparePlace.vue') },
    { path: '/:rest(.*)', component: () => import('./shared/NoSuchPage.vue') },
  ],
})
