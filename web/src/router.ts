import { createRouter, createWebHistory } from 'vue-router'
import HomePage from './stages/home/HomePage.vue'

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
        { path: 'setup', name: 'setup', component: () => import('./stages/setup/SetupStage.vue') },
        {
          path: 'calendars',
          name: 'calendars',
          component: () => import('./stages/calendars/CalendarsStage.vue'),
        },
        { path: 'network', name: 'network', component: () => import('./stages/network/NetworkStage.vue') },
        { path: 'review/:part?', name: 'review', component: () => import('./stages/review/ReviewStage.vue') },
        {
          path: 'forecast',
          name: 'forecast',
          component: () => import('./stages/forecast/ForecastStage.vue'),
        },
        {
          path: 'scenarios',
          name: 'scenarios',
          component: () => import('./stages/scenarios/ScenariosStage.vue'),
        },
        {
          path: 'handover',
          name: 'handover',
          component: () => import('./stages/handover/HandoverStage.vue'),
        },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
