/** How new what something is made of is: of a file its own time, of a folder that of the newest in it. */
import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** @returns {number} milliseconds */
export function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
}
