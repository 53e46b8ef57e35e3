/** Values that are set and not kept yet, in the palette: what the buttons below them do. */
import { toValue, type MaybeRefOrGetter } from 'vue';
import { useCommands, type Command } from './stores/commands.ts';

/**
 * @param of whose values: "the sheets"
 * @param changes how many there are
 * @param actions asked while the palette is open; what cannot be done now is left out
 *
 * @example
 * useSetValuesCommands('the sheets', changes, () => ({ discard, tryHere: region ? tryOut : undefined, keep }));
 */
export function useSetValuesCommands(
  of: string,
  changes: MaybeRefOrGetter<number>,
  actions: () => { discard(): unknown; tryHere?: () => unknown; keep?: () => unknown },
): void {
  useCommands().provide(() => {
    if (toValue(changes) === 0) return [];
    const { discard, tryHere, keep } = actions();
    const one = (name: string, run?: () => unknown): Command[] =>
      run ? [{ id: `${name} ${of}`, group: 'Do', name, detail: `values set in ${of}`, run: () => void run() }] : [];
    return [...one('Try here', tryHere), ...one('Keep untried', keep), ...one('Discard', discard)];
  });
}
