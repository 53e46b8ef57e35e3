import { createRouter, createWebHistory } from 'vue-router';
import ShotList from './views/ShotList.vue';
import Workspace from './views/Workspace.vue';
import NotThere from './views/NotThere.vue';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'shots', component: ShotList },
    { path: '/shots/:code', name: 'shot', component: Workspace, props: true },
    { path: '/shots/:code/intake', name: 'intake', component: () => import('./views/IntakeView.vue'), props: true },
    { path: '/shots/:code/look', name: 'look', component: () => import('./views/LookView.vue'), props: true },
    { path: '/help/:name(.*)', name: 'help', component: () => import('./views/HelpView.vue'), props: true },
    { path: '/sign-in', name: 'sign-in', component: () => import('./views/SignIn.vue') },
    { path: '/:rest(.*)*', name: 'not-there', component: NotThere },
  ],
});
