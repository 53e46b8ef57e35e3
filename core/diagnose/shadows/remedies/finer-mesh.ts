/** More faces, as many as steps need to vanish; or a light wide enough to blur them. */
import type { Proposal, Propose } from '../../family.ts';
import type { ShadowCase } from '../case.ts';

/** Degrees between a face and its smooth normal that nobody sees. */
const FINE = 1;

export const finerMesh: Propose<ShadowCase> = (of) => {
  if (of.kind !== 'jagged') return null;
  const times = Math.ceil(of.degrees / FINE);
  const mesh: Proposal = {
    id: 'mesh',
    title: `Subdivide ${of.objects!.join(', ')} where the mesh is made: edges ${times} times as short`,
    change: null,
  };
  const light = of.document.lights[of.light];
  if (light.kind !== 'distant') return mesh;
  const angle = +Math.min(20, 2 * of.degrees).toPrecision(2);
  const wider: Proposal = {
    id: 'wider',
    title: `${light.name || of.light} at ${angle}°, as wide as blurs the steps`,
    change: { kind: 'values', values: { [`/lights/${of.light}/angle`]: angle } },
    note: 'Its shadows get as soft.',
  };
  return [wider, mesh];
};
