import { createRouter, createWebHistory } from 'vue-router'
import AlertsPage from './alerts/AlertsPage.vue'
import ApplicationsPage from './applications/ApplicationsPage.vue'
import BeansPage from './beans/BeansPage.vue'
import CountersPage from './counters/CountersPage.vue'
import EndPointsPage from './endpoints/EndPointsPage.vue'
import EstatePage from './estate/EstatePage.vue'
import FactsPage from './facts/FactsPage.vue'
import LimitsPage from './limits/LimitsPage.vue'
import MemoryPage from './memory/MemoryPage.vue'
import NowPage from './now/NowPage.vue'
import PoolsPage from './pools/PoolsPage.vue'
import RecipesPage from './recipes/RecipesPage.vue'
import WholeShelf from './shelf/WholeShelf.vue'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: (to) => ({ path: '/shelf', query: to.query }) },
    { path: '/shelf', name: 'shelf', component: WholeShelf },
    { path: '/now', name: 'now', component: NowPage },
    { path: '/memory', name: 'memory', component: MemoryPage },
    { path: '/pools', name: 'pools', component: PoolsPage },
    { path: '/applications', name: 'applications', component: ApplicationsPage },
    { path: '/alerts', name: 'alerts', component: AlertsPage },
    { path: '/counters', name: 'counters', component: CountersPage },
    { path: '/beans', name: 'beans', component: BeansPage },
    { path: '/endpoints', name: 'endpoints', component: EndPointsPage },
    { path: '/estate', name: 'estate', component: EstatePage },
    { path: '/recipes', name: 'recipes', component: RecipesPage },
    { path: '/facts', name: 'facts', component: FactsPage },
    { path: '/limits', name: 'limits', component: LimitsPage },
    { path: '/:rest(.*)*', redirect: '/shelf' },
  ],
})
