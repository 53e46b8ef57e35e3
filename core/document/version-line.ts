/** The line of versions that stands: undo leaves it, redo goes back to it. */
export interface LineVersion {
  readonly id: number;
  readonly parentId: number | null;
}

/**
 * Ids of a version and of those that it was made from, one after the other.
 *
 * @example versionLine(3, [{ id: 1, parentId: null }, { id: 2, parentId: 1 }, { id: 3, parentId: 1 }]) // Set { 3, 1 }
 */
export function versionLine(headId: number, versions: readonly LineVersion[]): Set<number> {
  const parents = new Map(versions.map(({ id, parentId }) => [id, parentId]));
  const line = new Set<number>();
  for (let at: number | null | undefined = headId; at != null; at = parents.get(at)) line.add(at);
  return line;
}
