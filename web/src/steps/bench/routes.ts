/** Screens of the bench. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [
  { path: 'bench', component: () => import('./BenchScreen.vue') },
  { path: 'tests', component: () => import('./tests/TestsScreen.vue') },
  { path: 'tests/:planId', component: () => import('./tests/TestScreen.vue'), props: true },
]
export default routes
