import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory('/'),
  routes: [
    { path: '/', name: 'jobs', component: () => import('./screens/JobsScreen.vue') },
    {
      path: '/jobs/:job/:station(intake|trace|check|build|size|sheet|proof|handover)?',
      name: 'bench',
      component: () => import('./screens/BenchScreen.vue'),
      props: true,
    },
    {
      path: '/lists/:kind(materials|machines|purposes|targets|stock|settings)?',
      name: 'lists',
      component: () => import('./screens/ListsScreen.vue'),
      props: true,
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
