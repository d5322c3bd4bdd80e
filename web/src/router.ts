import { createRouter, createWebHistory, type RouteComponent } from 'vue-router'
import { STAGES } from './frame/stages.ts'
import { onSignedOut } from './api/client.ts'
import { loadMe, me, mustSignIn, noticeSignedOut } from './stores/account.ts'
import HomePage from './stages/home/HomePage.vue'

const components = import.meta.glob<RouteComponent>('./stages/*/*Stage.vue', { import: 'default' })
const componentOf = (name: string): (() => Promise<RouteComponent>) =>
  components[`./stages/${name}/${name[0]!.toUpperCase()}${name.slice(1)}Stage.vue`]!

/** Pages that are there before anybody signs in. */
const OPEN = { isOpen: true }

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'home', component: HomePage },
    { path: '/list', name: 'list', component: () => import('./stages/home/ImportListPage.vue') },
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('./stages/people/SignInPage.vue'),
      meta: OPEN,
    },
    {
      path: '/welcome',
      name: 'welcome',
      component: () => import('./stages/people/WelcomePage.vue'),
      meta: OPEN,
    },
    { path: '/accounts', name: 'accounts', component: () => import('./stages/people/AccountsPage.vue') },
    { path: '/stagger', name: 'stagger', component: () => import('./stages/home/StaggerPage.vue') },
    { path: '/new', name: 'new', component: () => import('./stages/home/NewPlanPage.vue') },
    {
      path: '/plan/:id',
      component: () => import('./frame/PlanFrame.vue'),
      children: [
        { path: '', redirect: (to) => ({ name: 'network', params: to.params }) },
        ...STAGES.map(({ name, path }) => ({ name, path, component: componentOf(name) })),
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

onSignedOut(noticeSignedOut)
router.beforeEach(async (to) => {
  // Where the server is away the page says so itself; who it is is asked again with the next one.
  if (me.value === null) await loadMe().catch(() => undefined)
  if (!mustSignIn.value || to.meta.isOpen === true) return true
  return { name: 'sign-in', query: to.path === '/' ? {} : { to: to.fullPath } }
})
