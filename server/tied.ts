/** Processes that a start command began end with it, even if it was killed and could not say so. */

/**
 * Ends this process once the start command named in its environment is no longer its parent. Called before
 * anything that could wait for a database which is gone as well; nothing stored is half-written by that.
 */
export function endWithParent(): void {
  const parent = Number(process.env.DUSTING_TIED);
  if (!parent) return;
  setInterval(() => {
    if (process.ppid !== parent) process.exit(0);
  }, 1000).unref();
}
