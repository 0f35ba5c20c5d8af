import { createRouter, createWebHistory } from 'vue-router';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'home', component: () => import('./screens/home/HomeScreen.vue') },
    { path: '/shot/:id', name: 'bench', component: () => import('./screens/bench/BenchScreen.vue'), props: true },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
});
