/** Screens of hand-over. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [{ path: 'handover', component: () => import('./SheetScreen.vue') }]
export default routes
