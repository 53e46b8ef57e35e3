/** Objects whose stretch, shear or mirroring is carried into a mesh of their own; what is left is where they stand. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';
import { translation } from '../../data/transform.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { carriedOut } from '../../geometry/mend/carry-transform.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';

export async function carryTransforms(
  document: ShotDocument,
  { objects }: Extract<RepairWork, { kind: 'carry transforms' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const ids = new FreeIds();
  const made: Record<string, unknown> = { ...document.meshes };
  const meshes: { name: string; poly: PolyMesh; id: string }[] = [];
  const values: Record<string, unknown> = {};
  for (const object of objects) {
    const { mesh, transform } = document.objects[object];
    const id = ids.of(made, `${mesh}-${object}`);
    made[id] = null;
    meshes.push({ name: id, id, poly: carriedOut(await files.mesh(mesh!), transform) });
    values[`/objects/${object}/mesh`] = id;
    values[`/objects/${object}/transform`] = translation(transform[12], transform[13], transform[14]);
  }
  const file = await files.writeMeshes('carried', meshes);
  const added: JsonPatch = meshes.map(({ id }, mesh) => ({
    op: 'add',
    path: `/meshes/${id}`,
    value: { file, mesh, primitive: 0 },
  }));
  return [...added, ...replaceValues(document, values)];
}
