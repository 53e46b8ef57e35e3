/** Limits that end what is seen. */
import { translation } from '../../../core/data/transform.ts';
import { defaultFog, evenEnvironment } from '../../../core/document/defaults.ts';
import { box } from '../../../demo/shapes.ts';
import { square } from '../../unit/helpers.ts';
import { clearGlass, type Fault } from './fault.ts';

export const limitsFaults: Fault[] = [
  ...(['transmission', 'specular', 'diffuse'] as const).map((kind): Fault => ({
    cause: `limits.${kind}`,
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      if (kind === 'transmission') {
        document.environment = evenEnvironment([0.6, 0.6, 0.6]);
        for (let k = 0; k < 5; k++) draft.put(`pane${k}`, box([-1.2, 0.2, 1 - 0.3 * k], [1.2, 1.5, 1.02 - 0.3 * k]), { ...clearGlass, specular: 1 }); // prettier-ignore
        draft.sheet.limits.transmission = draw.whole(2, 6);
      } else if (kind === 'specular') {
        document.environment = evenEnvironment([0.6, 0.6, 0.6]);
        for (const id of draft.things) Object.assign(document.materials[id], { metallic: 1, roughness: 0.02, baseColour: [0.95, 0.95, 0.95] }); // prettier-ignore
        const mirror = { metallic: 1, roughness: 0.02, baseColour: [0.95, 0.95, 0.95] };
        draft.put('plate', box([-2.5, 0, -2], [2.5, 0.02, 2.5]), mirror);
        draft.sheet.limits.specular = 1;
      } else {
        document.environment = evenEnvironment([0.02, 0.02, 0.02]);
        for (const id of Object.keys(document.materials)) Object.assign(document.materials[id], { baseColour: [0.85, 0.85, 0.85], metallic: 0, specular: 0, roughness: 1 }); // prettier-ignore
        draft.put('roof', box([-4, 3, -4], [4, 3.1, 8]), { ...document.materials.floor });
        draft.put('west', box([-4.1, 0, -4], [-4, 3, 8]), { ...document.materials.floor });
        draft.put('east', box([4, 0, -4], [4.1, 3, 8]), { ...document.materials.floor });
        draft.put('rear', box([-4, 0, 7], [4, 3, 7.1]), { ...document.materials.floor });
        draft.put('far', box([-4, 0, -4.1], [4, 3, -4]), { ...document.materials.floor });
        draft.sheet.limits.diffuse = draw.whole(0, 1);
      }
    },
  })),
  {
    cause: 'limits.overall-hides-other',
    also: ['limits.transmission'],
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.6, 0.6, 0.6]);
      for (let k = 0; k < 5; k++) draft.put(`pane${k}`, box([-1.2, 0.2, 1 - 0.3 * k], [1.2, 1.5, 1.02 - 0.3 * k]), clearGlass); // prettier-ignore
      draft.sheet.limits.transmission = 16;
      draft.sheet.limits.overall = draw.whole(3, 6);
    },
  },
  {
    cause: 'limits.alpha',
    isUpstream: true,
    plant(draft) {
      const { draw, document } = draft;
      document.environment = evenEnvironment([0.5, 0.5, 0.5]);
      const count = draw.whole(4, 6);
      for (let k = 0; k < count; k++) draft.put(`leaf${k}`, square(1.3, 0), { baseColour: [0.3, 0.5, 0.2], specular: 0, roughness: 1, alphaMode: 'blend', alpha: 0.3 }, { transform: translation(0, 0.9, 1.6 - 0.2 * k) }); // prettier-ignore
      draft.sheet.limits.alpha = draw.whole(0, 1);
    },
  },
  {
    cause: 'limits.volume',
    isUpstream: true,
    plant(draft) {
      const { document } = draft;
      document.fog = {
        ...defaultFog(),
        density: 0.25,
        albedo: [0.95, 0.95, 0.95],
        box: { min: [-6, 0, -6], max: [6, 4, 8] },
      };
      draft.sheet.limits.volume = 0;
    },
  },
  {
    cause: 'limits.wasted-depth',
    plant(draft) {
      const { draw, document } = draft;
      // Dark walls all around: light is gone after a few bounces, and every path goes on.
      for (const id of Object.keys(document.materials)) Object.assign(document.materials[id], { baseColour: draw.colour(0.1, 0.25), metallic: 0, specular: 0, roughness: 1 }); // prettier-ignore
      draft.put('roof', box([-4, 4, -4], [4, 4.1, 8]), { ...document.materials.floor });
      draft.put('west', box([-4.1, 0, -4], [-4, 4, 8]), { ...document.materials.floor });
      draft.put('east', box([4, 0, -4], [4.1, 4, 8]), { ...document.materials.floor });
      draft.sheet.roulette = false;
      Object.assign(draft.sheet.limits, { diffuse: draw.whole(20, 50), overall: 120 });
    },
  },
];
