import '@fontsource-variable/inter';
import './styles/base.css';
import { createPinia } from 'pinia';
import PrimeVue from 'primevue/config';
import ConfirmationService from 'primevue/confirmationservice';
import ToastService from 'primevue/toastservice';
import Tooltip from 'primevue/tooltip';
import { createApp } from 'vue';
import App from './App.vue';
import { desk } from './picture/desk.ts';
import { onSignedOut } from './remote/client.ts';
import { router } from './router.ts';
import { useSession } from './stores/session.ts';
import { preset } from './theme.ts';

desk.begin();
const pinia = createPinia();
const session = useSession(pinia);
/** To the page for it, and back to where one was. */
const toSignIn = (to: string) => ({ name: 'sign-in', query: { to } });
onSignedOut(() => {
  session.needed = true;
  session.signedIn = false;
  const { name, fullPath } = router.currentRoute.value;
  if (name !== 'sign-in') void router.push(toSignIn(fullPath));
});
// A server that does not answer yet is told by the page itself.
await session.look().catch(() => {});
router.beforeEach((to) => (session.signedIn || to.name === 'sign-in' ? true : toSignIn(to.fullPath)));

/** What the library leaves out for those who work by keyboard or by ear. */
const seen = { 'aria-hidden': undefined };
const passThrough = {
  // A list's way in for the Tab key is a hidden element that takes the focus: it must not be hidden from assistive programs.
  listbox: { hiddenFirstFocusableEl: seen, hiddenLastFocusableEl: seen },
  // The row that is selected is where Tab enters a table; without one the first is.
  datatable: {
    bodyRow: ({ context }: { context: { selectable?: unknown; selected?: boolean } }) =>
      context.selectable && context.selected ? { tabindex: 0 } : {},
  },
  // Panels below a head of the same name are no places of their own.
  accordioncontent: { root: { role: 'group' } },
};

createApp(App)
  .use(pinia)
  .use(router)
  .use(PrimeVue, { theme: { preset, options: { darkModeSelector: '.dark' } }, pt: passThrough })
  .use(ToastService)
  .use(ConfirmationService)
  .directive('tooltip', Tooltip)
  .mount('#app');
