/** Screens of the dyno. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [{ path: 'dyno', component: () => import('./DynoScreen.vue') }]
export default routes
