/** What two sheets have otherwise. */
import type { Sheet } from '../../document/schema.ts';

export interface Difference {
  /** JSON pointer within the sheet. */
  path: string;
  a: unknown;
  b: unknown;
}

export function differences(a: Sheet, b: Sheet): Difference[] {
  const found: Difference[] = [];
  const walk = (x: unknown, y: unknown, path: string) => {
    if (x && y && typeof x === 'object' && typeof y === 'object')
      for (const key of Object.keys(x))
        walk((x as Record<string, unknown>)[key], (y as Record<string, unknown>)[key], `${path}/${key}`);
    else if (x !== y) found.push({ path, a: x, b: y });
  };
  walk(a, b, '');
  return found;
}
