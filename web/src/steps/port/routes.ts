/** Screens of port work. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [
  { path: 'port', component: () => import('./PortScreen.vue') },
  { path: 'port/outlines', component: () => import('./outline/OutlineScreen.vue') },
  { path: 'port/bores', component: () => import('./bores/BoreScreen.vue') },
  { path: 'port/steps', component: () => import('./OtherSteps.vue') },
]
export default routes
