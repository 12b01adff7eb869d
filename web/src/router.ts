/** Where screens are: beside the steps by name, of each step by its folder. */
import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'
import BoardScreen from '@/board/BoardScreen.vue'

declare module 'vue-router' {
  interface RouteMeta {
    /** The step of the work that a screen belongs to. */
    step?: string
  }
}

const steps = import.meta.glob<{ default: RouteRecordRaw[] }>('./steps/*/routes.ts', { eager: true })
const ofSteps = Object.entries(steps).flatMap(([file, { default: routes }]) => {
  const step = /steps\/(\w+)\//.exec(file)?.[1]
  return routes.map((route): RouteRecordRaw => ({ ...route, meta: { step } }))
})

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', component: BoardScreen },
    { path: '/new', component: () => import('@/steps/checkin/NewJobScreen.vue') },
    { path: '/shelf', component: () => import('@/shelf/ShelfScreen.vue') },
    { path: '/orders', component: () => import('@/shelf/OrdersScreen.vue') },
    { path: '/reckoner', component: () => import('@/reckoner/ReckonerScreen.vue') },
    { path: '/lines', component: () => import('@/shelf/LinesScreen.vue') },
    { path: '/parts/:partId', component: () => import('@/shelf/PartScreen.vue'), props: true },
    { path: '/parts/:partId/history', component: () => import('@/shelf/HistoryScreen.vue'), props: true },
    {
      path: '/jobs/:jobId',
      component: () => import('@/frame/JobFrame.vue'),
      props: true,
      children: [
        { path: '', redirect: (to) => `${to.path.replace(/\/$/, '')}/path` },
        { path: 'takein', redirect: (to) => to.path.replace(/takein$/, 'checkin') },
        ...ofSteps,
      ],
    },
    { path: '/:rest(.*)', redirect: '/' },
  ],
  /** Another screen, or another page of the board, begins at its top; the way back leads to where one was. */
  scrollBehavior: (to, from, saved) =>
    saved ?? (to.path === from.path && to.query['page'] === from.query['page'] ? false : { top: 0 }),
})

/** Fetch every screen while nothing else is to do: later they open at once, also without a connection. */
export function fetchScreens(): void {
  for (const { components } of router.getRoutes()) {
    const load = components?.['default'] as (() => Promise<unknown>) | undefined
    if (typeof load === 'function') void load().catch(() => undefined)
  }
}
