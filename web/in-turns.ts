/**
 * Parts of a page that are drawn one after another. A page that draws all at once keeps the browser busy for half a
 * second, and what its first part asked a worker for waits behind the last one.
 *
 * @param turns how many parts wait for another
 * @param isOpen while there is something to draw; what is opened again begins anew
 * @returns how many of them may be drawn by now: 0 until the first part says that it is `up`, or has taken longer than
 *   `PATIENCE_MS`; then one more each time the browser is free
 *
 * @example
 * const { turn, up } = useTurns(2, () => shot.state !== null);
 * // <Picture @drawn="up" /> <Findings v-if="turn > 0" /> <Passes v-if="turn > 1" />
 */
import { onScopeDispose, ref, watch, type Ref } from 'vue';

/** Nobody waits longer for the rest of a page because its first part is late. */
const PATIENCE_MS = 400;

export function useTurns(turns: number, isOpen: () => boolean): { turn: Ref<number>; up: () => void } {
  const turn = ref(0);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const next = () => {
    turn.value += 1;
    timer = turn.value < turns ? setTimeout(next) : undefined;
  };
  const up = () => {
    if (turn.value > 0 || !isOpen()) return;
    clearTimeout(timer);
    timer = setTimeout(next);
  };
  watch(
    isOpen,
    (open) => {
      clearTimeout(timer);
      turn.value = 0;
      if (open) timer = setTimeout(next, PATIENCE_MS);
    },
    { immediate: true, flush: 'post' },
  );
  onScopeDispose(() => clearTimeout(timer));
  return { turn, up };
}
