/** Which lights light which objects, and which objects shade which lights. */
import type { LinkSpec } from '../document/schema.ts';

/** A byte for each object, 1 where the link means it. */
export function linkRow(link: LinkSpec, objects: string[]): Uint8Array {
  const listed = new Set(link.objects);
  return Uint8Array.from(objects, (id) => (link.mode === 'all' || listed.has(id) === (link.mode === 'only') ? 1 : 0));
}
