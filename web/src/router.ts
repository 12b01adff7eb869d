import { createRouter, createWebHistory } from 'vue-router'
import BoardScreen from '@/screens/board/BoardScreen.vue'

const screens = {
  job: () => import('@/screens/JobFrame.vue'),
  newJob: () => import('@/screens/takein/NewJobScreen.vue'),
  takein: () => import('@/screens/takein/TakeInScreen.vue'),
  path: () => import('@/screens/path/PathScreen.vue'),
  candidates: () => import('@/screens/path/CandidatesScreen.vue'),
  shelf: () => import('@/screens/shelf/ShelfScreen.vue'),
  lines: () => import('@/screens/shelf/LinesScreen.vue'),
  history: () => import('@/screens/shelf/HistoryScreen.vue'),
  part: () => import('@/screens/shelf/PartScreen.vue'),
  bench: () => import('@/screens/bench/BenchScreen.vue'),
  tests: () => import('@/screens/tests/TestsScreen.vue'),
  test: () => import('@/screens/tests/TestScreen.vue'),
  steps: () => import('@/screens/steps/StepScreen.vue'),
  dyno: () => import('@/screens/dyno/DynoScreen.vue'),
  handover: () => import('@/screens/handover/SheetScreen.vue'),
}

/** Fetch every screen while nothing else is to do: later they open at once, also without a connection. */
export function fetchScreens(): void {
  for (const load of Object.values(screens)) void load().catch(() => undefined)
}

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: BoardScreen },
    { path: '/new', component: screens.newJob },
    { path: '/shelf', component: screens.shelf },
    { path: '/lines', component: screens.lines },
    { path: '/parts/:partId', component: screens.part, props: true },
    { path: '/parts/:partId/history', component: screens.history, props: true },
    {
      path: '/jobs/:jobId',
      component: screens.job,
      props: true,
      children: [
        { path: '', redirect: (to) => `${to.path.replace(/\/$/, '')}/path` },
        { path: 'takein', component: screens.takein },
        { path: 'path', component: screens.path },
        { path: 'candidates', component: screens.candidates },
        { path: 'bench', component: screens.bench },
        { path: 'tests', component: screens.tests },
        { path: 'tests/:planId', component: screens.test, props: true },
        { path: 'port', component: screens.steps, props: { word: 'port' } },
        { path: 'fit', component: screens.steps, props: { word: 'fit' } },
        { path: 'dyno', component: screens.dyno },
        { path: 'handover', component: screens.handover },
      ],
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
})
