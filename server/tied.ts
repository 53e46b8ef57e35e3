/** Processes that a start command began end with it, even if it was killed and could not say so. */

/** Calls `stop` once the process that started this one is gone; only where the start command asks for it. */
export function endWithParent(stop: () => Promise<void>): void {
  if (process.env.DUSTING_TIED !== '1') return;
  const parent = process.ppid;
  setInterval(() => {
    if (process.ppid !== parent) void stop();
  }, 1000).unref();
}
