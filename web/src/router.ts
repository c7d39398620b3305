import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'board', component: () => import('./views/BoardView.vue') },
    { path: '/start', name: 'start', component: () => import('./views/StartView.vue') },
    { path: '/jobs/:job/clean/:side', name: 'clean', component: () => import('./views/CleanView.vue'), props: true },
    { path: '/jobs/:job/hand-over', name: 'hand-over', component: () => import('./views/HandOverView.vue'), props: true },
    { path: '/jobs/:job/:step(words|pictures|layout|look)?', name: 'bench', component: () => import('./views/BenchView.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
