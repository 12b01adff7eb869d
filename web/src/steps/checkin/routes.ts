/** Screens of check-in. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [{ path: 'checkin', component: () => import('./CheckinScreen.vue') }]
export default routes
