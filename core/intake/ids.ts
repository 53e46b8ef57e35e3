/** Ids of a document's items, made from the names that people gave. */

import { isReservedName } from '../document/safe-path.ts';

/** Letters, digits, `_`, `.` and `-`; what else stands in a name becomes a dash, and `constructor` is `constructor-1`. */
export function safeId(name: string): string {
  const id = name
    .replaceAll(/[^A-Za-z0-9_.-]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '')
    .slice(0, 80);
  return isReservedName(id) ? `${id}-1` : id;
}

/** Numbers for ids that are taken, one run for each name, so that ten thousand of one name are quick. */
export class FreeIds {
  private readonly last = new Map<object, Map<string, number>>();

  /** An id that the map of items does not have yet. */
  of(map: object, name: string): string {
    const base = safeId(name) || 'unnamed';
    let runs = this.last.get(map);
    if (!runs) this.last.set(map, (runs = new Map()));
    let id = base;
    let number = runs.get(base) ?? 1;
    while (Object.hasOwn(map, id)) id = `${base}-${++number}`;
    runs.set(base, number);
    return id;
  }
}
