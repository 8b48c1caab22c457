import { createRouter, createWebHistory } from 'vue-router'
import { PAGES } from './pages'
import { readZone } from './window/zone'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    ...Object.entries(PAGES).map(([path, component]) => ({
      path,
      name: path.slice(1) || 'first',
      component,
    })),
    { path: '/:rest(.*)*', redirect: '/shelf' },
  ],
})

router.beforeResolve((to) => readZone(to.query))

/** A tab that was open while another version came finds its pages no more: it begins anew there. */
router.onError((error: Error, to) => {
  if (/module|import/i.test(error.message)) location.assign(to.fullPath)
})
