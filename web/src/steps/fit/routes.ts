/** Screens of fitting. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [
  { path: 'fit', component: () => import('./FitScreen.vue') },
  { path: 'fit/bolts', component: () => import('./bolts/BoltScreen.vue') },
]
export default routes
