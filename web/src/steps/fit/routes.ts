/** Screens of fitting. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [{ path: 'fit', component: () => import('./FitScreen.vue') }]
export default routes
