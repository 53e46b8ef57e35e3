import '@fontsource-variable/inter';
import './styles/base.css';
import { createPinia } from 'pinia';
import PrimeVue from 'primevue/config';
import ToastService from 'primevue/toastservice';
import Tooltip from 'primevue/tooltip';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router.ts';
import { preset } from './theme.ts';

createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, { theme: { preset, options: { darkModeSelector: '.dark' } } })
  .use(ToastService)
  .directive('tooltip', Tooltip)
  .mount('#app');
