/** Glass and normals. */
import { multiply, scaling, translation } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { sphere } from '../../unit/helpers.ts';
import { clearGlass, type Fault } from './fault.ts';

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
];
