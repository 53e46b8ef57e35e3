/** What the mesh is too coarse for, as a bump: cheap, and right but for outlines and shadows. */
import { isPlacedByUvs } from '../../../render/compile/displace.ts';
import type { Propose } from '../../family.ts';
import type { ReliefCase } from '../case.ts';

export const shadeRest: Propose<ReliefCase> = ({ cause, material, document, study }) => {
  if (cause !== 'displacement.too-little-geometry') return null;
  const { name, displacementDetail } = document.materials[material];
  if (displacementDetail || !isPlacedByUvs(study.shape.relief.map)) return null;
  return {
    id: 'shade-rest',
    title: `Shade as a bump on ${name || material} what the mesh is too coarse for`,
    change: { kind: 'values', values: { [`/materials/${material}/displacementDetail`]: true } },
    note: 'No extra triangles; silhouettes and shadows stay as coarse as the mesh.',
  };
};
