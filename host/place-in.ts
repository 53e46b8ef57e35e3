/** Where a file of a shot goes below a folder of this machine. */
import { join, resolve, sep } from 'node:path';
import { faultOfPath } from '../core/document/safe-path.ts';

/**
 * @param path relative, with forward slashes
 * @throws RangeError for a path that is none of a shot's files', or would lie outside the folder
 */
export function placeIn(folder: string, path: string): string {
  const fault = faultOfPath(path);
  if (fault)
    throw new RangeError(`A file is called ${JSON.stringify(path.slice(0, 80))}, which is not taken: ${fault}`);
  const place = resolve(join(folder, path));
  if (!place.startsWith(resolve(folder) + sep))
    throw new RangeError(`A file is called ${JSON.stringify(path)}, which leaves its folder`);
  return place;
}
