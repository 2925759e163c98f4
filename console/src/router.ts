import { nextTick } from 'vue'
import { createRouter, createWebHistory, type Router } from 'vue-router'
import { PLACES } from './places'
import type { useSession } from './session'

export function makeRouter(session: ReturnType<typeof useSession>): Router {
  const router = createRouter({
    history: createWebHistory(),
    routes: [
      { path: '/', redirect: '/now' },
      { path: '/sign-in', component: () => import('./pages/SignInPage.vue'), meta: { open: true } },
      { path: '/welcome', component: () => import('./pages/WelcomePage.vue'), meta: { open: true } },
      { path: '/now', component: () => import('./pages/NowPage.vue') },
      { path: '/now/imports/new', component: () => import('./pages/ImportNewPage.vue') },
      { path: '/now/imports/:id', component: () => import('./pages/ImportPage.vue'), props: true },
      { path: '/now/change-sets/:id', component: () => import('./pages/ChangeSetPage.vue'), props: true },
      { path: '/ahead', component: () => import('./pages/CalendarPage.vue') },
      { path: '/ahead/suspended', component: () => import('./pages/SuspendedPage.vue') },
      { path: '/ahead/departures', component: () => import('./pages/DeparturesPage.vue') },
      { path: '/ahead/departures/:id', component: () => import('./pages/DeparturePage.vue'), props: true },
      { path: '/behind', component: () => import('./pages/BehindPage.vue') },
      { path: '/who', component: () => import('./pages/PeoplePage.vue') },
      { path: '/who/duplicates', component: () => import('./pages/DuplicatesPage.vue') },
      { path: '/who/units', component: () => import('./pages/UnitsPage.vue') },
      { path: '/who/groups', component: () => import('./pages/GroupsPage.vue') },
      { path: '/who/oddities', component: () => import('./pages/OdditiesPage.vue') },
      { path: '/who/conflicts', component: () => import('./pages/ConflictsPage.vue') },
      { path: '/who/new', component: () => import('./pages/PersonNewPage.vue'), meta: { act: 'edit-people' } },
      { path: '/who/:id', component: () => import('./pages/PersonPage.vue'), props: true },
      { path: '/where', component: () => import('./pages/ApplicationsPage.vue') },
      { path: '/where/new', component: () => import('./pages/ApplicationNewPage.vue') },
      { path: '/where/feeds/new', component: () => import('./pages/FeedNewPage.vue') },
      { path: '/where/feeds/:source', component: () => import('./pages/FeedPage.vue'), props: true },
      { path: '/where/compare', component: () => import('./pages/ComparePage.vue') },
      { path: '/where/:name/off', component: () => import('./pages/OffPage.vue'), props: true },
      { path: '/where/:name/dormant', component: () => import('./pages/DormantPage.vue'), props: true },
      { path: '/where/:name/:kind', component: () => import('./pages/FindingsPage.vue'), props: true },
      { path: '/where/:name', component: () => import('./pages/ApplicationPage.vue'), props: true },
      { path: '/why/rules', component: () => import('./pages/RulesPage.vue'), meta: { act: 'see-settings' } },
      { path: '/why/rules/new', component: () => import('./pages/RulePage.vue'), meta: { act: 'edit-settings' } },
      { path: '/why/rules/:name', component: () => import('./pages/RulePage.vue'), props: true, meta: { act: 'see-settings' } },
      { path: '/why/procedures', component: () => import('./pages/ProceduresPage.vue'), meta: { act: 'see-settings' } },
      { path: '/why/logins', component: () => import('./pages/LoginsPage.vue'), meta: { act: 'see-settings' } },
      { path: '/why/limits', component: () => import('./pages/LimitsPage.vue') },
      { path: '/why/attributes', component: () => import('./pages/AttributesPage.vue') },
      { path: '/why', component: () => import('./pages/OperatorsPage.vue') },
      { path: '/self', component: () => import('./pages/SelfPage.vue') },
      { path: '/:rest(.*)', component: () => import('./pages/NowherePage.vue') }
    ],
    scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? false : { top: 0 })
  })
  router.beforeEach((to) => {
    if (to.meta.open) return true
    if (!session.isSignedIn) return { path: '/sign-in', query: { to: to.fullPath } }
    const place = PLACES.find((one) => to.path.startsWith(one.to))
    const act = (to.meta.act as string | undefined) ?? place?.act
    return act && !session.may(act) ? '/now' : true
  })
  router.afterEach(async (to, from) => {
    // Whoever reads by ear begins at the heading of the new page.
    if (from.matched.length && to.path !== from.path) {
      await nextTick()
      document.querySelector<HTMLElement>('main h1')?.focus({ preventScroll: true })
    }
  })
  return router
}
