/** Glass and normals. */
import { multiply, rotationY, scaling, translation } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { sphere, square } from '../../unit/helpers.ts';
import type { Draft } from '../shots.ts';
import { clearGlass, type Fault } from './fault.ts';

/** The first of the things has but fronts, and its faces are turned. */
function oneSided({ document, meshes, things }: Draft, turned: (indices: Uint32Array) => Uint32Array): void {
  const [id] = things;
  const mesh = meshes.get(id)!;
  meshes.set(id, { ...mesh, indices: turned(mesh.indices.slice()) });
  document.objects[id].facing = 'front';
}

export const surfacesFaults: Fault[] = [
  {
    cause: 'glass.black-filter',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      for (const id of draft.things) Object.assign(document.materials[id], { ...clearGlass, metallic: 0, baseColour: [0, 0, 0] }); // prettier-ignore
    },
  },
  {
    cause: 'normals.faceted',
    plant(draft) {
      const { document, draw } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      // One ball that is large enough for its facets to be several pixels wide.
      const [id, ...others] = draft.things;
      for (const other of others) delete document.objects[other];
      draft.meshes.set(id, sphere(1, draw.whole(9, 12) * 2, true));
      document.objects[id].transform = multiply(translation(0, 0.9, 0), scaling(0.9, 0.9, 0.9));
      Object.assign(document.materials[id], { metallic: 1, roughness: 0, baseColour: [0.95, 0.95, 0.95] });
    },
  },
  {
    cause: 'normals.reversed',
    isUpstream: true,
    plant(draft) {
      oneSided(draft, (indices) => indices.reverse());
    },
  },
  {
    cause: 'normals.mixed-winding',
    isUpstream: true,
    plant(draft) {
      // One of three faces.
      oneSided(draft, (indices) => indices.map((_, i) => (Math.floor(i / 3) % 3 === 0 ? indices[i - (i % 3) + 2 - (i % 3)] : indices[i]))); // prettier-ignore
    },
  },
  {
    cause: 'normals.one-sided',
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      draft.put('board', square(draw.within(0.5, 0.8), 0), { baseColour: [0.6, 0.5, 0.4], roughness: 1 }, { transform: multiply(translation(draw.within(-0.5, 0.5), 0.9, 0.8), rotationY(180)) }); // prettier-ignore
      document.objects.board.facing = 'front';
    },
  },
];
