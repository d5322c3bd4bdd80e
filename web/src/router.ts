import { createRouter, createWebHistory, type RouteComponent } from 'vue-router'
import { STAGES } from './frame/stages.ts'
import HomePage from './stages/home/HomePage.vue'

const components = import.meta.glob<RouteComponent>('./stages/*/*Stage.vue', { import: 'default' })
const componentOf = (name: string): (() => Promise<RouteComponent>) =>
  components[`./stages/${name}/${name[0]!.toUpperCase()}${name.slice(1)}Stage.vue`]!

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'home', component: HomePage },
    { path: '/list', name: 'list', component: () => import('./stages/home/ImportListPage.vue') },
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
