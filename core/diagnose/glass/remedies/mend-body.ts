/** What makes a body of glass what it is meant to be: values of its object and material, or a mended mesh. */
import { metres } from '../../../intake/preflight/tell.ts';
import { mendMeshes } from '../../../intake/repairs/offer.ts';
import type { MeshMend } from '../../../contracts/intake.ts';
import type { Proposal, Propose } from '../../family.ts';
import { listed } from '../../words.ts';
import type { BodyCase } from '../bodies.ts';
import type { GlassCase } from '../definition.ts';

/** Of crown glass; and what a channel is lifted to that was swallowed, of the strongest. */
const INDEX = 1.5;
const LIFTED = 0.15;

export const mendBody: Propose<GlassCase> = (of) => {
  if (of.kind !== 'body') return null;
  const { fault, document, ids, objects, material, thickness } = of;
  const all = (field: string, value: unknown) =>
    Object.fromEntries(ids.map((id) => [`/objects/${id}/${field}`, value]));
  const names = listed(objects);
  const thinWall: Proposal = {
    id: 'thin',
    title: `Take each face of ${names} for a thin wall`,
    change: { kind: 'values', values: all('thin', true) },
    note: 'It no longer refracts; its thickness is the material’s.',
  };
  switch (fault) {
    case 'inverted':
      return [...mended(of, 'turn outwards', `Turn the faces of ${names} outwards`), thinWall];
    case 'open':
      return [thinWall, ...mended(of, 'close holes', `Close the holes of ${names}`)];
    case 'sheet':
      return thinWall;
    case 'flagged-thin':
      return { id: 'solid', title: `Take ${names} for a solid body`, change: { kind: 'values', values: all('thin', false) } }; // prettier-ignore
    case 'index':
      return { id: 'index', title: `Index of refraction ${INDEX}, of glass`, change: { kind: 'values', values: { [`/materials/${material}/ior`]: INDEX } } }; // prettier-ignore
    case 'channel': {
      const { baseColour } = document.materials[material];
      const least = LIFTED * Math.max(...baseColour);
      const lifted = baseColour.map((c) => +Math.max(c, least).toFixed(3));
      return {
        id: 'lift',
        title: `Let ${document.materials[material].name || material} pass some of every channel`,
        change: { kind: 'values', values: { [`/materials/${material}/baseColour`]: lifted } },
        note: 'Each face filters by it: two faces by its square. A deep tint belongs in absorption, by distance.',
      };
    }
    case 'absorption': {
      const distance = +thickness.toPrecision(2);
      return {
        id: 'distance',
        title: `An attenuation distance of ${metres(distance)}, as thick as it is`,
        change: { kind: 'values', values: { [`/materials/${material}/attenuationDistance`]: distance } },
        note: 'Straight through it, light then has the attenuation colour.',
      };
    }
  }
};

function mended({ document, ids }: BodyCase, how: MeshMend, title: string): Proposal[] {
  const meshes = [...new Set(ids.flatMap((id) => document.objects[id].mesh ?? []))];
  const repair = mendMeshes(title, document, how, meshes);
  return repair
    ? [{ id: 'mesh', title, change: { kind: 'files', patch: repair.patch, work: repair.work }, note: 'In a new file; every object that uses the mesh gets it.' }]
    : []; // prettier-ignore
}
