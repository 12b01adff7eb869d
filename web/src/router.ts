import { createRouter, createWebHistory } from 'vue-router'
import BoardScreen from '@/screens/board/BoardScreen.vue'

const job = () => import('@/screens/JobFrame.vue')

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: BoardScreen },
    { path: '/new', component: () => import('@/screens/takein/NewJobScreen.vue') },
    {
      path: '/jobs/:jobId',
      component: job,
      props: true,
      children: [
        { path: '', redirect: (to) => `${to.path.replace(/\/$/, '')}/path` },
        { path: 'takein', component: () => import('@/screens/takein/TakeInScreen.vue') },
        { path: 'path', component: () => import('@/screens/path/PathScreen.vue') },
        { path: 'bench', component: () => import('@/screens/bench/BenchScreen.vue') },
        { path: 'port', component: () => import('@/screens/steps/StepScreen.vue'), props: { word: 'port' } },
        { path: 'fit', component: () => import('@/screens/steps/StepScreen.vue'), props: { word: 'fit' } },
        { path: 'dyno', component: () => import('@/screens/dyno/DynoScreen.vue') },
        { path: 'handover', component: () => import('@/screens/handover/SheetScreen.vue') },
      ],
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
