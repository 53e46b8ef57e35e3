/** Normals turned to the side of their faces, or faces to the side of the normals, in a new file. */
import { polygonsOf, trianglesOf } from '../../../data/poly-mesh.ts';
import { normalsOfTheirFaces } from '../../../geometry/mend/normals.ts';
import { turnedOutwards } from '../../../geometry/mend/turn-faces.ts';
import { mendMeshes } from '../../../intake/repairs/offer.ts';
import type { Propose } from '../../family.ts';
import type { NormalsCase } from '../case.ts';

export const mendNormals: Propose<NormalsCase> = (of) => {
  if (of.kind !== 'against') return null;
  const { document, assets, mesh, name, isInsideOut } = of;
  const [how, mended, title] = isInsideOut
    ? (['turn outwards', turnedOutwards, `Turn the faces of ${name} outwards`] as const)
    : (['mend normals', normalsOfTheirFaces, `Turn the normals of ${name} to the side of their faces`] as const);
  const repair = mendMeshes(title, document, how, [mesh]);
  if (!repair) return null;
  const meshes = new Map(assets.meshes);
  meshes.set(mesh, trianglesOf(mended(polygonsOf(assets.meshes.get(mesh)!))));
  return {
    id: 'mend-normals',
    title,
    change: { kind: 'files', patch: repair.patch, work: repair.work },
    files: { ...assets, meshes },
    note: 'In a new file; every object that uses the mesh gets it.',
  };
};
