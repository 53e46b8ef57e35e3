/** Objects whose pivot is put into the middle of their mesh: a new mesh about its own origin, and placements that make up for it. */
import type { RepairWork } from '../../contracts/intake.ts';
import type { Triple } from '../../data/placement.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';
import { multiply, translation } from '../../data/transform.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { centred } from '../../geometry/mend/centre.ts';
import { FreeIds } from '../ids.ts';
import type { NewFiles } from './new-files.ts';

/** Objects that wear one mesh get one new mesh between them. */
export async function centrePivots(
  document: ShotDocument,
  { objects }: Extract<RepairWork, { kind: 'centre pivots' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const ids = new FreeIds();
  const taken: Record<string, unknown> = { ...document.meshes };
  const made = new Map<string, { name: string; poly: PolyMesh; centre: Triple }>();
  const values: Record<string, unknown> = {};
  for (const object of objects) {
    const { mesh, transform, keys } = document.objects[object];
    let own = made.get(mesh!);
    if (!own) {
      const name = ids.of(taken, `${mesh}-centred`);
      taken[name] = null;
      made.set(mesh!, (own = { name, ...centred(await files.mesh(mesh!)) }));
    }
    const away = translation(...own.centre);
    values[`/objects/${object}/mesh`] = own.name;
    values[`/objects/${object}/transform`] = multiply(transform, away);
    if (keys.length > 0) values[`/objects/${object}/keys`] = keys.map((key) => ({ ...key, transform: multiply(key.transform, away) })); // prettier-ignore
  }
  const meshes = [...made.values()];
  const file = await files.writeMeshes('centred', meshes);
  const added: JsonPatch = meshes.map(({ name }, mesh) => ({
    op: 'add',
    path: `/meshes/${name}`,
    value: { file, mesh, primitive: 0 },
  }));
  return [...added, ...replaceValues(document, values)];
}
