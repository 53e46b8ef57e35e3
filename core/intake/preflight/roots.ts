/** Files that lie where the farm has none. */
import type { SourceReference } from '../../formats/source-scene.ts';
import type { Offender } from './check.ts';

export function outsideRoots(
  references: SourceReference[],
  roots: string[],
  isMeant: (kind: SourceReference['kind']) => boolean,
): Offender[] {
  const inside = (path: string) => roots.some((root) => path === root || path.startsWith(root.replace(/\/*$/, '/')));
  return references
    .filter(({ kind, resolved }) => isMeant(kind) && resolved !== null && /^(\.\.\/|\/|[A-Za-z]:)/.test(resolved))
    .filter(({ resolved }) => !inside(resolved!))
    .map(({ path, resolved, neededBy }) => ({
      object: path,
      detail: `is at ${resolved}, named by ${neededBy}`,
      count: 1,
    }));
}
