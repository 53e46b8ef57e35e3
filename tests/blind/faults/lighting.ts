/** Lights that light nothing, and light that blows out. */
import { lookAt } from '../../../core/data/transform.ts';
import { evenEnvironment } from '../../../core/document/defaults.ts';
import { box } from '../../../demo/shapes.ts';
import { type Fault } from './fault.ts';

export const lightingFaults: Fault[] = [
  {
    cause: 'lighting.light-turned-away',
    isUpstream: true,
    plant({ document }) {
      const { key } = document.lights;
      const [x, y, z] = key.transform.slice(12, 15);
      key.transform = lookAt([x, y, z], [2 * x, 2 * y - 0.3, 2 * z]);
    },
  },
  {
    cause: 'lighting.light-out-of-reach',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.reach = { distance: draw.within(0.3, 0.8), bounces: null };
    },
  },
  {
    cause: 'lighting.light-inside-object',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      const [x, y, z] = document.lights.key.transform.slice(12, 15);
      draft.put('housing', box([x - 0.8, y - 0.8, z - 0.8], [x + 0.8, y + 0.8, z + 0.8]), { baseColour: [0.3, 0.3, 0.3] }, { visibility: { camera: false, shadow: true, diffuse: true, specular: true, transmission: true, occlusion: true } }); // prettier-ignore
    },
  },
  {
    cause: 'lighting.linked-away',
    isUpstream: true,
    plant({ document }) {
      document.lights.key.lights = { mode: 'only', objects: [] };
    },
  },
  {
    cause: 'lighting.background-tied',
    plant({ document, draw }) {
      // No walls: the sky is seen.
      for (const id of ['back', 'left', 'right']) delete document.objects[id];
      document.environment = evenEnvironment(draw.colour(1.1, 1.3));
      for (const { baseColour } of Object.values(document.materials))
        baseColour.forEach((c, a) => (baseColour[a] = c / 2));
    },
  },
  {
    cause: 'lighting.overexposed',
    isUpstream: true,
    plant({ document, draw }) {
      document.lights.key.intensity *= draw.within(15, 40);
    },
  },
];
