/** What all stations of a shot have in common: keys, their list, the palette, and an address that back and forward walk through. */
import { useEventListener, useFullscreen } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { onBeforeRouteUpdate, useRoute, useRouter, type LocationQuery } from 'vue-router';
import { isInDialog, keysOf, pressKey, type MeaningId } from './key-table.ts';
import { useCommands } from './stores/commands.ts';

/**
 * Keys of a station, their list, and the same as commands.
 *
 * @param runs what each key does here
 *
 * @example
 * const { keys, isListingKeys } = useKeys({ boost: () => view.toggleBoost() });
 */
export function useKeys(runs: Partial<Record<MeaningId, () => void>>) {
  const commands = useCommands();
  const isListingKeys = ref(false);
  const keys = keysOf({
    help: () => (isListingKeys.value = !isListingKeys.value),
    palette: () => (commands.isOpen = true),
    ...runs,
  });
  // A dialog that Escape closes is gone before the key gets here, where it would leave the trial behind it as well.
  let beganInDialog = false;
  useEventListener(window, 'keydown', () => (beganInDialog = isInDialog()), { capture: true });
  useEventListener(window, 'keydown', (event) => void (beganInDialog || pressKey(event, keys)));
  commands.provide(() =>
    keys
      .filter(({ id, shown }) => shown && id !== 'help' && id !== 'palette')
      .map(({ id, does, shown, run }) => ({ id: `key ${id}`, group: 'Do', name: does, detail: shown, run })),
  );
  return { keys, isListingKeys };
}

/**
 * Whether the picture is alone on the page, without the panels around it, and the keys for it.
 *
 * @example
 * const { isAlone, aloneKeys } = useAlone();
 * useKeys({ ...aloneKeys, boost: () => view.toggleBoost() });
 */
export function useAlone() {
  const isAlone = ref(false);
  const screen = useFullscreen(document.documentElement);
  watch(screen.isFullscreen, (is) => !is && (isAlone.value = false));
  const aloneKeys = {
    panels: () => (isAlone.value = !isAlone.value),
    fullScreen: () => {
      isAlone.value = !screen.isFullscreen.value;
      void screen.toggle();
    },
  };
  return { isAlone, aloneKeys };
}

/** An address without the part of the page that is written into it at each change. */
const partOf = (query: Record<string, unknown>, names: string[]) => JSON.stringify(names.map((name) => query[name] ?? null)); // prettier-ignore

/**
 * Keeps the address and what is looked at the same. A step to another thing is one that back returns from; exposure,
 * regions and the like change the address in its place.
 *
 * @param options.steps names in the query whose change is a step
 * @param options.clean takes out of what is looked at what is not there: no step; called whenever `there` changes to something, as when a shot is there
 */
export function useAddress(options: {
  name: string;
  query: () => Record<string, string>;
  fromQuery(query: LocationQuery): void;
  steps: string[];
  there?: () => unknown;
  clean?(): void;
}): void {
  const { name, query, fromQuery, steps, there = () => null, clean = () => {} } = options;
  let isCleaning = false;
  const route = useRoute();
  const router = useRouter();
  const whole = computed(() => JSON.stringify(query()));
  watch(whole, () => {
    if (route.name !== name) return;
    const now = query();
    if (JSON.stringify(now) === JSON.stringify(route.query)) return;
    const isStep = !isCleaning && partOf(now, steps) !== partOf(route.query, steps);
    void (isStep ? router.push({ query: now }) : router.replace({ query: now }));
  });
  onBeforeRouteUpdate((to, from) => {
    if (to.params.code === from.params.code && JSON.stringify(to.query) !== whole.value) fromQuery(to.query);
  });
  watch(
    there,
    async (is) => {
      if (!is) return;
      isCleaning = true;
      clean();
      await nextTick();
      isCleaning = false;
    },
    { immediate: true },
  );
}
