/** Endless floors as squares of geometry, for renderers that have no endless ones. */
import type { RepairWork } from '../../contracts/intake.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { FreeIds } from '../ids.ts';
import { square, type NewFiles } from './new-files.ts';

export async function endFloors(
  document: ShotDocument,
  { sides }: Extract<RepairWork, { kind: 'end floors' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.meshes };
  const floors = Object.entries(sides).map(([object, side]) => {
    const id = ids.of(taken, object);
    taken[id] = null;
    return { object, name: id, poly: square(side) };
  });
  const file = await files.writeMeshes('floors', floors);
  const added: JsonPatch = floors.map(({ name }, mesh) => ({
    op: 'add',
    path: `/meshes/${name}`,
    value: { file, mesh, primitive: 0 },
  }));
  const values = floors.flatMap(({ object, name }) => [
    [`/objects/${object}/shape`, 'mesh'],
    [`/objects/${object}/mesh`, name],
  ]);
  return [...added, ...replaceValues(document, Object.fromEntries(values) as Record<string, unknown>)];
}
