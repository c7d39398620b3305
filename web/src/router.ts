import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'board', component: () => import('./board/BoardView.vue') },
    { path: '/about', name: 'about', component: () => import('./about/AboutView.vue') },
    { path: '/start', name: 'start', component: () => import('./compose/StartView.vue') },
    { path: '/jobs/:job/clean/:side', name: 'clean', component: () => import('./bench/CleanView.vue'), props: true },
    { path: '/jobs/:job/sizes', name: 'sizes', component: () => import('./adapt/SizesView.vue'), props: true },
    { path: '/jobs/:job/check', name: 'check', component: () => import('./check/CheckView.vue'), props: true },
    { path: '/jobs/:job/hand-over', name: 'hand-over', component: () => import('./hand-over/HandOverView.vue'), props: true },
    { path: '/jobs/:job/hand-over/sheets', name: 'sheets', component: () => import('./paper/SheetsView.vue'), props: true },
    { path: '/jobs/:job/hand-over/list', name: 'list', component: () => import('./list/ListView.vue'), props: true },
    { path: '/jobs/:job/hand-over/shop', name: 'shop', component: () => import('./paper/ShopView.vue'), props: true },
    { path: '/jobs/:job/hand-over/cloth', name: 'cloth', component: () => import('./paper/ClothView.vue'), props: true },
    { path: '/jobs/:job/:step(words|pictures|layout|look)?', name: 'bench', component: () => import('./bench/BenchView.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
