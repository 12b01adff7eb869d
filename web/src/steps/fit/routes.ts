/** Screens of fitting. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [
  { path: 'fit', component: () => import('./FitScreen.vue') },
  { path: 'fit/bolts', component: () => import('./bolts/BoltScreen.vue') },
  { path: 'fit/notes', component: () => import('./notes/NotesScreen.vue') },
  { path: 'fit/tuner', component: () => import('./TunerScreen.vue') },
  { path: 'fit/steps', component: () => import('./StepsScreen.vue') },
]
export default routes
