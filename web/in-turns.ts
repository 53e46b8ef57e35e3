/**
 * Parts of a page that are drawn one after another. A page that draws all at once keeps the browser busy for half a
 * second, and what its first part asked a worker for waits behind the last one.
 *
 * @param turns how many parts wait for another
 * @param isReady from when on; what is not ready any more begins anew
 * @returns how many of them may be drawn by now: from 0, one more each time the browser is free
 *
 * @example
 * const turn = useTurns(2, () => shot.state !== null);
 * // <Picture /> <Passes v-if="turn > 0" /> <Findings v-if="turn > 1" />
 */
import { onScopeDispose, ref, watch, type Ref } from 'vue';

export function useTurns(turns: number, isReady: () => boolean): Ref<number> {
  const turn = ref(0);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const next = () => {
    turn.value += 1;
    if (turn.value < turns) timer = setTimeout(next);
  };
  watch(
    isReady,
    (ready) => {
      clearTimeout(timer);
      turn.value = 0;
      if (ready) timer = setTimeout(next);
    },
    { immediate: true, flush: 'post' },
  );
  onScopeDispose(() => clearTimeout(timer));
  return turn;
}
