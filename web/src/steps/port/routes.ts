/** Screens of port work. */
import type { RouteRecordRaw } from 'vue-router'

const routes: RouteRecordRaw[] = [{ path: 'port', component: () => import('./PortScreen.vue') }]
export default routes
