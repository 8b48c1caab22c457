import { createRouter, createWebHistory } from 'vue-router'
import { readZone } from './window/zone'

/** Each is fetched when it is first wanted. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'first', component: () => import('./look/FirstView.vue') },
    { path: '/shelf', name: 'shelf', component: () => import('./shelf/WholeShelf.vue') },
    { path: '/now', name: 'now', component: () => import('./now/NowPage.vue') },
    {
      path: '/sessions',
      name: 'sessions',
      component: () => import('./sessions/SessionsPage.vue'),
    },
    {
      path: '/statements',
      name: 'statements',
      component: () => import('./statements/StatementsPage.vue'),
    },
    { path: '/locks', name: 'locks', component: () => import('./locks/LocksPage.vue') },
    { path: '/memory', name: 'memory', component: () => import('./memory/MemoryPage.vue') },
    { path: '/pools', name: 'pools', component: () => import('./pools/PoolsPage.vue') },
    {
      path: '/applications',
      name: 'applications',
      component: () => import('./applications/ApplicationsPage.vue'),
    },
    { path: '/alerts', name: 'alerts', component: () => import('./alerts/AlertsPage.vue') },
    { path: '/counters', name: 'counters', component: () => import('./counters/CountersPage.vue') },
    { path: '/baseline', name: 'baseline', component: () => import('./baseline/BaselinePage.vue') },
    { path: '/beans', name: 'beans', component: () => import('./beans/BeansPage.vue') },
    { path: '/compare', name: 'compare', component: () => import('./compare/ComparePage.vue') },
    {
      path: '/endpoints',
      name: 'endpoints',
      component: () => import('./endpoints/EndPointsPage.vue'),
    },
    { path: '/estate', name: 'estate', component: () => import('./estate/EstatePage.vue') },
    { path: '/moved', name: 'moved', component: () => import('./moved/MovedPage.vue') },
    {
      path: '/together',
      name: 'together',
      component: () => import('./together/TogetherPage.vue'),
    },
    { path: '/recipes', name: 'recipes', component: () => import('./recipes/RecipesPage.vue') },
    { path: '/facts', name: 'facts', component: () => import('./facts/FactsPage.vue') },
    { path: '/limits', name: 'limits', component: () => import('./limits/LimitsPage.vue') },
    { path: '/enter', name: 'enter', component: () => import('./shelf/WholeShelf.vue') },
    { path: '/about', name: 'about', component: () => import('./about/AboutPage.vue') },
    { path: '/account', name: 'account', component: () => import('./access/AccountPage.vue') },
    { path: '/people', name: 'people', component: () => import('./access/PeoplePage.vue') },
    { path: '/audit', name: 'audit', component: () => import('./access/AuditPage.vue') },
    { path: '/telling', name: 'telling', component: () => import('./telling/TellingPage.vue') },
    { path: '/settings', name: 'settings', component: () => import('./access/SettingsPage.vue') },
    { path: '/:rest(.*)*', redirect: '/shelf' },
  ],
})

router.beforeResolve((to) => readZone(to.query))

/** A tab that was open while another version came finds its pages no more: it begins anew there. */
router.onError((error: Error, to) => {
  if (/module|import/i.test(error.message)) location.assign(to.fullPath)
})
