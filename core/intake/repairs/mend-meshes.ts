/** Meshes with their faces mended, in a new file; every object that wears one gets it. */
import type { MeshMend, RepairWork } from '../../contracts/intake.ts';
import type { PolyMesh } from '../../data/poly-mesh.ts';
import { replaceValues, type JsonPatch } from '../../document/patch.ts';
import type { ShotDocument } from '../../document/schema.ts';
import { withHolesClosed } from '../../geometry/mend/close-holes.ts';
import { withFacesCut } from '../../geometry/mend/cut-faces.ts';
import { withoutFaces } from '../../geometry/mend/drop-faces.ts';
import { normalsJoined, normalsOfTheirFaces } from '../../geometry/mend/normals.ts';
import { turnedOutwards } from '../../geometry/mend/turn-faces.ts';
import { topologyOf } from '../../geometry/topology.ts';
import type { NewFiles } from './new-files.ts';

const WAYS: Record<MeshMend, (poly: PolyMesh) => PolyMesh> = {
  'drop degenerate': (poly) => withoutFaces(poly, topologyOf(poly).degenerate),
  'drop duplicates': (poly) => withoutFaces(poly, topologyOf(poly).duplicates),
  'turn outwards': turnedOutwards,
  'mend normals': normalsOfTheirFaces,
  'close holes': withHolesClosed,
  'cut faces': withFacesCut,
  'join normals': normalsJoined,
};

export async function mendMeshes(
  document: ShotDocument,
  { how, meshes }: Extract<RepairWork, { kind: 'mend meshes' }>,
  files: NewFiles,
): Promise<JsonPatch> {
  const mended: { name: string; poly: PolyMesh }[] = [];
  for (const id of meshes) mended.push({ name: id, poly: WAYS[how](await files.mesh(id)) });
  const file = await files.writeMeshes(`mended-${how.replaceAll(' ', '-')}`, mended);
  const references = meshes.map((id, mesh) => [`/meshes/${id}`, { file, mesh, primitive: 0 }] as const);
  return replaceValues(document, Object.fromEntries(references));
}
