/**
 * Work that is asked for more often than it can be done: one at a time, and the newest wish last.
 *
 * @example
 * const draw = latest(async () => paint(await desk.ask('draw', cells.value)));
 * watch(cells, draw);
 */
export function latest(work: () => Promise<void>): () => Promise<void> {
  let isBusy = false;
  let isWanted = false;
  return async () => {
    isWanted = true;
    if (isBusy) return;
    isBusy = true;
    try {
      while (isWanted) {
        isWanted = false;
        await work();
      }
    } finally {
      isBusy = false;
    }
  };
}
