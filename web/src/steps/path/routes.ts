/** Screens of the air path. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [
  { path: 'path', component: () => import('./PathScreen.vue') },
  { path: 'candidates', component: () => import('./CandidatesScreen.vue') },
  { path: 'sets', component: () => import('./SetsScreen.vue') },
]
export default routes
