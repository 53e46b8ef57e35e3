/** Tells that long work ended, to somebody who looks elsewhere: by the title, the icon, and the system where that is allowed. */
import { useDocumentVisibility, useFavicon, useTitle } from '@vueuse/core';
import { ref, watch, type Ref } from 'vue';
import { usePreferences } from './stores/preferences.ts';

/** Work that ends sooner is waited for. */
const LONG_MS = 10_000;

/** Something ended and was not seen yet. */
const isDone = ref(false);

/** The title of the page, marked while something ended unseen. @param title as it is otherwise */
export function usePageTitle(title: Ref<string>): void {
  const shown = useTitle();
  const icon = useFavicon();
  const visibility = useDocumentVisibility();
  watch(visibility, (now) => now === 'visible' && (isDone.value = false));
  watch(
    [title, isDone],
    () => {
      shown.value = isDone.value ? `✓ ${title.value}` : title.value;
      icon.value = isDone.value ? '/icon-done.svg' : '/icon.svg';
    },
    { immediate: true },
  );
}

/** @param work what is running, in words; null: nothing */
export function useWorkDone(work: Ref<string | null>): void {
  const preferences = usePreferences();
  let since = 0;
  watch(work, (now, before) => {
    if (now && !before) since = Date.now();
    if (now || !before || document.visibilityState === 'visible' || Date.now() - since < LONG_MS) return;
    isDone.value = true;
    if (preferences.notifies) new Notification('Dusting', { body: `${before}: done`, icon: '/icon.svg' });
  });
}
